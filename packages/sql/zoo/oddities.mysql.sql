-- What nobody would do on purpose, and everybody has.
create table `select` (id uuid not null primary key default uuid(), `from` text not null, `order` int not null, `Group By` text);
create table `constructor` (`__proto__` int not null primary key, `toString` text not null, `hasOwnProperty` boolean);
create table tide (`at` datetime(6) not null, gauge int not null, state enum('HW', 'it''s ebb', 'LW') not null, `height m` double, primary key (gauge, `at`));
create table signals (letter char(1) not null, code varchar(30) character set latin1 collate latin1_swedish_ci not null primary key, meaning text not null, shown time(3), grades json);
create table log_entry (no bigint unsigned not null auto_increment primary key, written datetime(6) not null, day date generated always as (cast(written as date)) stored,
  body json not null, hash varbinary(64), spot inet6, wide decimal(65, 30));
create table wide (id bigint not null primary key, a01 text, a02 text, a03 text, a04 text, a05 text, a06 text, a07 text, a08 text, a09 text, a10 text, a11 text, a12 text,
  a13 text, a14 text, a15 text, a16 text, a17 text, a18 text, a19 text, a20 text, a21 int, a22 int, a23 int, a24 int, a25 int, a26 int,
  a27 int, a28 int, a29 int, a30 int, a31 boolean, a32 boolean, a33 date, a34 date, a35 datetime(3), a36 datetime(3), a37 uuid, a38 uuid);
create table node (id int not null primary key, parent int, twin int unique, name varchar(100) not null collate utf8mb4_bin,
  foreign key (parent) references node (id), foreign key (twin) references node (id));
create table pair (a int not null, b int not null, c int not null, primary key (c, a, b), unique (b, c));
create table of_pair (id int not null primary key, pb int not null, pc int not null, foreign key (pb, pc) references pair (b, c));
create table ledger (name text not null, amount int);
create table `Ölstand` (`größe` int not null primary key, `naïve name` text not null);
