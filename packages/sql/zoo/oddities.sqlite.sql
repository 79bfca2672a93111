-- What nobody would do on purpose, and everybody has.
create table "select" (id uuid primary key not null, "from" text not null, "order" integer not null, "Group By" text);
create table "constructor" ("__proto__" integer primary key, "toString" text not null, "hasOwnProperty" boolean);
create table tide ("at" timestamp not null, gauge integer not null, state text not null check (state in ('HW', 'it''s ebb', 'LW')), "height m" double, primary key (gauge, "at"));
create table signals (letter char(1) not null, code varchar(30) collate nocase primary key not null, meaning text not null, shown time, grades json);
create table log_entry (no integer primary key, written timestamp not null, day date generated always as (date(written)) stored, body json not null, hash blob, wide text);
create table wide (id bigint primary key not null, a01 text, a02 text, a03 text, a04 text, a05 text, a06 text, a07 text, a08 text, a09 text, a10 text, a11 text, a12 text,
  a13 text, a14 text, a15 text, a16 text, a17 text, a18 text, a19 text, a20 text, a21 int, a22 int, a23 int, a24 int, a25 int, a26 int,
  a27 int, a28 int, a29 int, a30 int, a31 boolean, a32 boolean, a33 date, a34 date, a35 timestamp, a36 timestamp, a37 uuid, a38 uuid);
create table node (id integer primary key, parent integer references node (id), twin integer unique references node (id), name text not null collate rtrim);
create table pair (a integer not null, b integer not null, c integer not null, primary key (c, a, b), unique (b, c));
create table of_pair (id integer primary key, pb integer not null, pc integer not null, foreign key (pc, pb) references pair (c, b));
create table ledger (name text not null, amount integer);
create table "Ölstand" ("größe" integer primary key, "naïve name" text not null);
