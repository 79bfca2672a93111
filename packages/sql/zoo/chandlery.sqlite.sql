-- A chandlery's orders: names with spaces and upper case, and keys of several columns, not in their table's order.
create table "Branch Offices" ("Number" smallint not null, "Company Code" char(3) not null, "City" varchar(15), primary key ("Company Code", "Number"));
create table "SELLERS" ("SELLER ID" integer primary key, "LAST NAME" varchar(20) not null, "BRANCH NO" smallint not null, "COMPANY" char(3) not null,
  "HEAD SELLER" integer references "SELLERS" ("SELLER ID"), foreign key ("COMPANY", "BRANCH NO") references "Branch Offices");
create table "Buyers" ("Buyer ID" varchar(6) primary key not null, "House Name" varchar(40) not null collate nocase, "Berth-No" varchar(10));
create table "Goods" ("Goods ID" integer primary key, "Goods Name" varchar(40) not null, "Price Each" decimal(12, 4) not null default 0,
  "On The Shelf" smallint not null default 0 check ("On The Shelf" >= 0), "Sold Off" boolean not null);
create table "Orders" ("Order ID" integer primary key, "Buyer ID" varchar(6) references "Buyers", "Seller ID" integer references "SELLERS" ("SELLER ID"),
  "Order Date" datetime not null, "Brought By" varchar(10) not null check ("Brought By" in ('tender', 'launch', 'quay')), "Carriage" decimal(12, 2));
create table "Order Lines" ("Goods ID" integer not null references "Goods", "Order ID" integer not null references "Orders",
  "Price Each" decimal(12, 4) not null, "Quantity" smallint not null check ("Quantity" > 0), "Taken Off" real not null default 0, primary key ("Order ID", "Goods ID"));
create table "Order Line Notes" ("Note ID" integer primary key, "Goods" integer not null, "Order" integer not null, "Note" varchar(200) not null,
  foreign key ("Order", "Goods") references "Order Lines");
create table "Quays Served" ("Quay" varchar(20) primary key not null, "Seller ID" integer unique references "SELLERS");
create view "Orders Seen" as select o."Order ID", b."House Name", o."Order Date", o."Carriage" from "Orders" o left join "Buyers" b on b."Buyer ID" = o."Buyer ID";
