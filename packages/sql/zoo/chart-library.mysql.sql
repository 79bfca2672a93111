-- A library of sea charts: sheets by publishers, collections that share sheets, and what is lent to crews.
create table `Publisher` (`PublisherId` int not null auto_increment primary key, `Name` varchar(90) not null);
create table `Chart` (`ChartId` int not null auto_increment primary key, `Title` varchar(150) not null, `PublisherId` int not null,
  `PublishedOn` date, foreign key (`PublisherId`) references `Publisher` (`PublisherId`));
create table `Paper` (`PaperId` smallint not null primary key, `Name` varchar(90) unique);
create table `Sheet` (`SheetId` int not null auto_increment primary key, `Name` varchar(200) not null, `ChartId` int, `PaperId` smallint not null,
  `Surveyor` varchar(180), `ScaleTo` int not null check (`ScaleTo` > 0), `FileSize` bigint unsigned, `DailyFee` decimal(10, 2) not null default 1.50,
  foreign key (`ChartId`) references `Chart` (`ChartId`), foreign key (`PaperId`) references `Paper` (`PaperId`));
create table `Collection` (`CollectionId` int not null auto_increment primary key, `Name` varchar(90));
create table `CollectionSheet` (`CollectionId` int not null, `SheetId` int not null, primary key (`CollectionId`, `SheetId`),
  foreign key (`CollectionId`) references `Collection` (`CollectionId`), foreign key (`SheetId`) references `Sheet` (`SheetId`));
create table `Clerk` (`ClerkId` int not null auto_increment primary key, `LastName` varchar(20) not null, `FirstName` varchar(20) not null,
  `Post` varchar(30), `ChiefId` int, `BornOn` datetime, `Email` varchar(60), foreign key (`ChiefId`) references `Clerk` (`ClerkId`));
create table `Borrower` (`BorrowerId` int not null auto_increment primary key, `FirstName` varchar(40) not null, `Company` varchar(80),
  `Phone` varchar(24), `HelperId` int, foreign key (`HelperId`) references `Clerk` (`ClerkId`));
create table `Loan` (`LoanId` int not null auto_increment primary key, `BorrowerId` int not null, `LoanDate` datetime not null,
  `Dues` decimal(10, 2) not null check (`Dues` >= 0), foreign key (`BorrowerId`) references `Borrower` (`BorrowerId`));
create table `LoanLine` (`LoanLineId` int not null auto_increment primary key, `LoanId` int not null, `SheetId` int not null,
  `DailyFee` decimal(10, 2) not null, `Days` int not null, foreign key (`LoanId`) references `Loan` (`LoanId`), foreign key (`SheetId`) references `Sheet` (`SheetId`));
create view `LoanTotals` as select l.`LoanId`, b.`FirstName`, count(x.`LoanLineId`) as `Lines`, coalesce(sum(x.`DailyFee` * x.`Days`), 0) as `Sum`
  from `Loan` l join `Borrower` b on b.`BorrowerId` = l.`BorrowerId` left join `LoanLine` x on x.`LoanId` = l.`LoanId` group by l.`LoanId`, b.`FirstName`;
