-- Aguarela Waterworks, a made-up water utility. Plain ISO SQL, the same on every server.
create schema metering;
create schema billing;
create schema network;
create schema laboratory;
create schema sandbox;

create table metering.meters (
  meter_id integer primary key,
  district varchar(20) not null,
  street varchar(60),
  installed date
);
insert into metering.meters values
  (101, 'north', 'Rua da Fonte 3', date '2016-04-11'),
  (102, 'north', 'Rua da Fonte 18', date '2019-09-02'),
  (201, 'delta', 'Largo do Cais 1', date '2012-01-30'),
  (202, 'delta', 'Travessa do Junco 7', date '2021-06-15'),
  (301, 'harbour', 'Avenida das Gruas 44', date '2018-03-08'),
  (401, 'hills', 'Caminho do Moinho 2', date '2008-11-20');

create table metering.readings (
  reading_id integer primary key,
  meter_id integer not null,
  district varchar(20) not null,
  read_on date not null,
  cubic_metres decimal(10,2) not null
);
insert into metering.readings values
  (1, 101, 'north', date '2026-09-01', 12.40), (2, 101, 'north', date '2026-10-01', 11.90),
  (3, 102, 'north', date '2026-09-01', 8.10), (4, 102, 'north', date '2026-10-01', 8.75),
  (5, 201, 'delta', date '2026-09-01', 30.00), (6, 201, 'delta', date '2026-10-01', 55.20),
  (7, 202, 'delta', date '2026-10-01', 6.05), (8, 301, 'harbour', date '2026-10-01', 140.00),
  (9, 401, 'hills', date '2026-10-01', 4.30);

create table billing.customers (
  customer_id integer primary key,
  full_name varchar(60) not null,
  district varchar(20) not null,
  tariff varchar(20) not null,
  phone varchar(20),
  email varchar(60),
  iban varchar(34),
  tax_number varchar(12)
);
insert into billing.customers values
  (1, 'Olga Pimenta', 'north', 'home', '555-0101', 'olga@example.org', 'XX00 0000 0000 0001', '900000001'),
  (2, 'Bento Cais', 'delta', 'home', '555-0102', 'bento@example.org', 'XX00 0000 0000 0002', '900000002'),
  (3, 'Doca Sul Lda', 'harbour', 'industry', '555-0103', 'contas@example.com', 'XX00 0000 0000 0003', '900000003'),
  (4, 'Irene Moinho', 'hills', 'home', null, null, 'XX00 0000 0000 0004', '900000004');

create table billing.invoices (
  invoice_id integer primary key,
  customer_id integer not null,
  district varchar(20) not null,
  issued_on date not null,
  amount decimal(10,2) not null
);
insert into billing.invoices values
  (1001, 1, 'north', date '2026-10-05', 24.10), (1002, 2, 'delta', date '2026-10-05', 61.00),
  (1003, 3, 'harbour', date '2026-10-05', 412.55), (1004, 4, 'hills', date '2026-10-05', 9.90);

create table billing.adjustments (
  adjustment_id integer primary key,
  invoice_id integer not null,
  amount decimal(10,2) not null,
  reason varchar(80),
  approved_by varchar(60)
);
insert into billing.adjustments values
  (1, 1002, -18.00, 'leak behind the meter', null),
  (2, 1003, 5.00, 'late reading', 'paulo.matias');

create table network.pipes (
  pipe_id integer primary key,
  district varchar(20) not null,
  material varchar(20),
  diameter_mm integer
);
insert into network.pipes values
  (1, 'north', 'cast iron', 200), (2, 'delta', 'steel', 400), (3, 'harbour', 'plastic', 110);

create table network.valves (
  valve_id integer primary key,
  pipe_id integer not null,
  critical boolean not null,
  state varchar(10) not null
);
insert into network.valves values (11, 1, false, 'open'), (12, 2, true, 'open'), (13, 3, false, 'shut');

create table network.incidents (
  incident_id integer primary key,
  district varchar(20) not null,
  reported_on date not null,
  closed_on date,
  note varchar(120)
);
insert into network.incidents values
  (1, 'delta', date '2026-10-02', null, 'pressure drop at night'),
  (2, 'north', date '2026-09-14', date '2026-09-15', 'burst joint');

create table network.desks (
  user_name varchar(60) not null,
  district varchar(20) not null
);
insert into network.desks values ('rui.teles', 'north'), ('rui.teles', 'hills'), ('lia.prado', 'delta');

create table laboratory.samples (
  sample_id integer primary key,
  district varchar(20) not null,
  taken_on date not null,
  chlorine decimal(6,3),
  released boolean not null
);
insert into laboratory.samples values
  (1, 'north', date '2026-10-10', 0.310, true), (2, 'delta', date '2026-10-11', 0.105, false);

create table laboratory.limits (
  substance varchar(20) primary key,
  lowest decimal(6,3),
  highest decimal(6,3)
);
insert into laboratory.limits values ('chlorine', 0.200, 0.600);

create view billing.invoice_totals as
  select district, count(*) as invoices, sum(amount) as total from billing.invoices group by district;
create view metering.daily_use as
  select district, read_on, sum(cubic_metres) as cubic_metres
    from metering.readings group by district, read_on;
create view network.open_incidents as
  select incident_id, district, reported_on, note from network.incidents where closed_on is null;
