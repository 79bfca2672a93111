-- A library of sea charts: sheets by publishers, collections that share sheets, and what is lent to crews.
create table [Publisher] ([PublisherId] integer primary key autoincrement not null, [Name] nvarchar(90) not null);
create table [Chart] ([ChartId] integer primary key autoincrement not null, [Title] nvarchar(150) not null, [PublisherId] integer not null references [Publisher], [PublishedOn] date);
create table [Paper] ([PaperId] integer primary key not null, [Name] nvarchar(90) unique);
create table [Sheet] ([SheetId] integer primary key autoincrement not null, [Name] nvarchar(200) not null, [ChartId] integer references [Chart] ([ChartId]),
  [PaperId] integer not null references [Paper], [Surveyor] nvarchar(180), [ScaleTo] integer not null check ([ScaleTo] > 0),
  [FileSize] bigint, [DailyFee] numeric(10, 2) not null default 1.50);
create table [Collection] ([CollectionId] integer primary key autoincrement not null, [Name] nvarchar(90));
create table [CollectionSheet] ([CollectionId] integer not null references [Collection], [SheetId] integer not null references [Sheet], primary key ([CollectionId], [SheetId]));
create table [Clerk] ([ClerkId] integer primary key autoincrement not null, [LastName] nvarchar(20) not null, [FirstName] nvarchar(20) not null,
  [Post] nvarchar(30), [ChiefId] integer references [Clerk] ([ClerkId]), [BornOn] datetime, [Email] nvarchar(60));
create table [Borrower] ([BorrowerId] integer primary key autoincrement not null, [FirstName] nvarchar(40) not null, [Company] nvarchar(80),
  [Phone] nvarchar(24), [HelperId] integer references [Clerk] ([ClerkId]));
create table [Loan] ([LoanId] integer primary key autoincrement not null, [BorrowerId] integer not null references [Borrower] ([BorrowerId]),
  [LoanDate] datetime not null, [Dues] numeric(10, 2) not null check ([Dues] >= 0));
create table [LoanLine] ([LoanLineId] integer primary key autoincrement not null, [LoanId] integer not null references [Loan] ([LoanId]),
  [SheetId] integer not null references [Sheet] ([SheetId]), [DailyFee] numeric(10, 2) not null, [Days] integer not null);
create view [LoanTotals] as select l.LoanId, b.FirstName, count(x.LoanLineId) as Lines, cast(coalesce(sum(x.DailyFee * x.Days), 0) as real) as Sum
  from Loan l join Borrower b on b.BorrowerId = l.BorrowerId left join LoanLine x on x.LoanId = l.LoanId group by l.LoanId, b.FirstName;
