-- Gear that crews hire: words of every kind that a database has for a thing.
create table maker (maker_id smallint unsigned not null auto_increment primary key, name varchar(60) not null comment 'The name on the plate; "as it is", with its signs: it''s.',
  changed_at timestamp not null default current_timestamp on update current_timestamp) comment 'Who makes gear, and has made it.';
create table language (language_id tinyint unsigned not null auto_increment primary key, name char(20) not null);
create table gear (gear_id int unsigned not null auto_increment primary key, title varchar(255) not null check (char_length(title) >= 1), description text,
  build_year year, language_id tinyint unsigned not null, printed_language_id tinyint unsigned, usual_days tinyint unsigned not null default 2,
  day_price decimal(4, 2) not null default 6.50, span_cm smallint unsigned check (span_cm between 1 and 300), for_weather enum('calm', 'breezy', 'rough', 'storm') default 'calm',
  parts set('lights', 'anchor', 'spare parts'), hire_time time, weight float, mooring point, flags bit(8), lit bit(1) not null default b'0',
  changed_at timestamp not null default current_timestamp, foreign key (language_id) references language (language_id), foreign key (printed_language_id) references language (language_id));
create table gear_maker (maker_id smallint unsigned not null, gear_id int unsigned not null, since date, primary key (maker_id, gear_id),
  foreign key (maker_id) references maker (maker_id), foreign key (gear_id) references gear (gear_id));
create table country (country_id smallint unsigned not null auto_increment primary key, country varchar(50) not null unique);
create table place (place_id smallint unsigned not null auto_increment primary key, place varchar(50) not null, country varchar(50) not null,
  foreign key (country) references country (country));
create table depot (depot_id tinyint unsigned not null auto_increment primary key, place_id smallint unsigned not null, keeper_id tinyint unsigned not null unique,
  foreign key (place_id) references place (place_id));
create table keeper (keeper_id tinyint unsigned not null auto_increment primary key, first_name varchar(60) not null, depot_id tinyint unsigned,
  on_duty boolean not null default true, portrait blob, password varchar(40), foreign key (depot_id) references depot (depot_id));
create table item (item_id mediumint unsigned not null auto_increment primary key, gear_id int unsigned not null, depot_id tinyint unsigned not null,
  foreign key (gear_id) references gear (gear_id), foreign key (depot_id) references depot (depot_id));
create table hire (hire_id int not null auto_increment primary key, hired_at datetime not null, item_id mediumint unsigned not null, returned_at datetime,
  keeper_id tinyint unsigned not null, unique (hired_at, item_id), check (returned_at > hired_at),
  foreign key (item_id) references item (item_id), foreign key (keeper_id) references keeper (keeper_id));
create table payment (payment_id int not null, hire_id int not null, amount decimal(5, 2) not null, paid_at datetime not null, primary key (payment_id, paid_at))
  partition by range columns (paid_at) (partition old values less than ('2026-01-01'), partition later values less than (maxvalue));
create view gear_stock as select g.gear_id as gear_no, g.title, g.for_weather, count(i.item_id) as items from gear g left join item i on i.gear_id = g.gear_id group by g.gear_id, g.title, g.for_weather;
