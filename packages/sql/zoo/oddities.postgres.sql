-- What nobody would do on purpose, and everybody has.
create extension if not exists citext with schema public;
create type "Tide State" as enum ('HW', 'it''s ebb', 'LW');
create domain short_name as citext check (length(value::text) <= 30);
create table "select" (id uuid primary key default gen_random_uuid(), "from" text not null, "order" integer not null, "Group By" text);
create table "constructor" ("__proto__" integer primary key, "toString" text not null, "hasOwnProperty" boolean);
create table tide ("at" timestamptz not null, gauge integer not null, state "Tide State" not null, "height m" double precision, primary key (gauge, "at"));
create table signal (letter "char" not null, code short_name primary key, meaning text not null, shown time(3), grades integer[], tags text[] not null default '{}');
create table log_entry (no bigint generated always as identity primary key, written timestamp(6) not null, day date generated always as ((written)::date) stored,
  body jsonb not null, raw json, hash bytea, price money, spot inet, width int4range, wide numeric);
create table wide (id bigint primary key, a01 text, a02 text, a03 text, a04 text, a05 text, a06 text, a07 text, a08 text, a09 text, a10 text, a11 text, a12 text,
  a13 text, a14 text, a15 text, a16 text, a17 text, a18 text, a19 text, a20 text, a21 integer, a22 integer, a23 integer, a24 integer, a25 integer, a26 integer,
  a27 integer, a28 integer, a29 integer, a30 integer, a31 boolean, a32 boolean, a33 date, a34 date, a35 timestamptz, a36 timestamptz, a37 uuid, a38 uuid);
create table node (id integer primary key, parent integer references node (id), twin integer unique references node (id), name text not null collate "C");
create table pair (a integer not null, b integer not null, c integer not null, primary key (c, a, b), unique (b, c));
create table of_pair (id integer primary key, pb integer not null, pc integer not null, foreign key (pc, pb) references pair (c, b));
create table ledger (name text not null, amount integer);
create table "Ölstand" ("größe" integer primary key, "naïve name" text not null);
