-- A chandlery's orders: names with spaces and upper case, and keys of several columns, not in their table's order.
create table `Branch Offices` (`Number` smallint not null, `Company Code` char(3) not null, `City` varchar(15), primary key (`Company Code`, `Number`));
create table `SELLERS` (`SELLER ID` int not null primary key, `LAST NAME` varchar(20) not null, `BRANCH NO` smallint not null, `COMPANY` char(3) not null, `HEAD SELLER` int,
  foreign key (`HEAD SELLER`) references `SELLERS` (`SELLER ID`), foreign key (`COMPANY`, `BRANCH NO`) references `Branch Offices` (`Company Code`, `Number`));
create table `Buyers` (`Buyer ID` varchar(6) not null primary key, `House Name` varchar(40) not null, `Berth-No` varchar(10));
create table `Goods` (`Goods ID` int not null primary key, `Goods Name` varchar(40) not null, `Price Each` decimal(12, 4) not null default 0,
  `On The Shelf` smallint not null default 0 check (`On The Shelf` >= 0), `Sold Off` tinyint(1) not null);
create table `Orders` (`Order ID` int not null primary key, `Buyer ID` varchar(6), `Seller ID` int, `Order Date` datetime not null,
  `Brought By` varchar(10) not null check (`Brought By` in ('tender', 'launch', 'quay')), `Carriage` decimal(12, 2),
  foreign key (`Buyer ID`) references `Buyers` (`Buyer ID`), foreign key (`Seller ID`) references `SELLERS` (`SELLER ID`));
create table `Order Lines` (`Goods ID` int not null, `Order ID` int not null, `Price Each` decimal(12, 4) not null, `Quantity` smallint not null check (`Quantity` > 0),
  `Taken Off` float not null default 0, primary key (`Order ID`, `Goods ID`), foreign key (`Goods ID`) references `Goods` (`Goods ID`), foreign key (`Order ID`) references `Orders` (`Order ID`));
create table `Order Line Notes` (`Note ID` int not null primary key, `Goods` int not null, `Order` int not null, `Note` varchar(200) not null,
  foreign key (`Order`, `Goods`) references `Order Lines` (`Order ID`, `Goods ID`));
create table `Quays Served` (`Quay` varchar(20) not null primary key, `Seller ID` int unique, foreign key (`Seller ID`) references `SELLERS` (`SELLER ID`));
create view `Orders Seen` as select o.`Order ID`, b.`House Name`, o.`Order Date`, o.`Carriage` from `Orders` o left join `Buyers` b on b.`Buyer ID` = o.`Buyer ID`;
