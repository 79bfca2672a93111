-- Gear that crews hire: words of every kind that a database has for a thing.
create table maker (maker_id integer primary key, name varchar(60) not null, changed_at timestamp not null default current_timestamp);
create table language (language_id integer primary key, name char(20) not null);
create table gear (gear_id integer primary key, title varchar(255) not null check (length(title) >= 1), description text, build_year int check (build_year between 1950 and 2100),
  language_id int unsigned not null references language (language_id), printed_language_id int unsigned references language (language_id),
  usual_days tinyint not null default 2, day_price decimal(4, 2) not null default 6.50, span_cm smallint check (span_cm between 1 and 300),
  for_weather text default 'calm' check (for_weather in ('calm', 'breezy', 'rough', 'storm')), parts json, weight float, price money, changed_at timestamp not null default current_timestamp);
create table gear_maker (maker_id int not null references maker, gear_id int not null references gear, since date, primary key (maker_id, gear_id)) without rowid;
create table country (country_id integer primary key, country varchar(50) not null unique);
create table place (place_id integer primary key, place varchar(50) not null, country varchar(50) not null references country (country));
create table depot (depot_id integer primary key, place_id int not null references place, keeper_id int not null unique);
create table keeper (keeper_id integer primary key, first_name varchar(60) not null, depot_id int references depot, on_duty boolean not null default 1, portrait blob, password varchar(40));
create table item (item_id integer primary key, gear_id int not null references gear, depot_id int not null references depot);
create table hire (hire_id integer primary key, hired_at datetime not null, item_id int not null references item, returned_at datetime,
  keeper_id int not null references keeper, unique (hired_at, item_id), check (returned_at > hired_at));
create table payment (payment_id int not null, hire_id int not null references hire, amount decimal(5, 2) not null, paid_at datetime not null, primary key (payment_id, paid_at));
create view gear_stock as select g.gear_id as gear_no, g.title, g.for_weather, count(i.item_id) as items from gear g left join item i on i.gear_id = g.gear_id group by g.gear_id;
