-- A library of sea charts: sheets by publishers, collections that share sheets, and what is lent to crews.
create table "Publisher" ("PublisherId" serial primary key, "Name" varchar(90) not null);
create table "Chart" ("ChartId" serial primary key, "Title" varchar(150) not null,
  "PublisherId" integer not null references "Publisher" ("PublisherId"), "PublishedOn" date);
create table "Paper" ("PaperId" smallint primary key, "Name" varchar(90) unique);
create table "Sheet" ("SheetId" serial primary key, "Name" varchar(200) not null, "ChartId" integer references "Chart" ("ChartId"),
  "PaperId" smallint not null references "Paper" ("PaperId"), "Surveyor" varchar(180),
  "ScaleTo" integer not null check ("ScaleTo" > 0), "FileSize" bigint, "DailyFee" numeric(10, 2) not null default 1.50);
create table "Collection" ("CollectionId" serial primary key, "Name" varchar(90));
create table "CollectionSheet" ("CollectionId" integer not null references "Collection" ("CollectionId"),
  "SheetId" integer not null references "Sheet" ("SheetId"), primary key ("CollectionId", "SheetId"));
create table "Clerk" ("ClerkId" serial primary key, "LastName" varchar(20) not null, "FirstName" varchar(20) not null,
  "Post" varchar(30), "ChiefId" integer references "Clerk" ("ClerkId"), "BornOn" timestamp, "Email" varchar(60));
create table "Borrower" ("BorrowerId" serial primary key, "FirstName" varchar(40) not null, "Company" varchar(80),
  "Phone" varchar(24), "HelperId" integer references "Clerk" ("ClerkId"));
create table "Loan" ("LoanId" serial primary key, "BorrowerId" integer not null references "Borrower" ("BorrowerId"),
  "LoanDate" timestamp not null, "Dues" numeric(10, 2) not null check ("Dues" >= 0));
create table "LoanLine" ("LoanLineId" serial primary key, "LoanId" integer not null references "Loan" ("LoanId"),
  "SheetId" integer not null references "Sheet" ("SheetId"), "DailyFee" numeric(10, 2) not null, "Days" integer not null);
create view "LoanTotals" as select l."LoanId", b."FirstName", count(x."LoanLineId") as "Lines",
  coalesce(sum(x."DailyFee" * x."Days"), 0)::numeric(12, 2) as "Sum"
  from "Loan" l join "Borrower" b using ("BorrowerId") left join "LoanLine" x using ("LoanId") group by l."LoanId", b."FirstName";
