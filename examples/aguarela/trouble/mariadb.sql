-- What went wrong in a branch office of Aguarela Waterworks, all of it made up: what only a MariaDB can have.
-- Surveyed as branch.survey.jsonl.gz.
create database branch_metering;
create database branch_billing;
create table branch_metering.readings (meter_id int, cubic_metres decimal(10,2));
create table branch_billing.invoices (invoice_id int, amount decimal(10,2));
create role branch_read;
grant select on branch_metering.* to branch_read;
create user 'berta.luz'@'10.30.%' identified by 'made up for the example';
grant branch_read to 'berta.luz'@'10.30.%';
set default role branch_read for 'berta.luz'@'10.30.%';
create user 'telemetry'@'%' identified by 'made up for the example';
grant select, insert on `branch\_%`.* to 'telemetry'@'%';
create user 'reports'@'10.30.1.5' identified by 'made up for the example';
grant branch_read to 'reports'@'10.30.1.5';
create user ''@'localhost';
create user 'helpdesk'@'10.30.1.9';
grant create user on *.* to 'helpdesk'@'10.30.1.9';
create user 'oscar.pires'@'10.30.%' identified by 'made up for the example' account lock;
grant branch_read to 'oscar.pires'@'10.30.%';
grant select on *.* to 'berta.luz'@'10.30.%';
create user 'gone'@'10.30.%' identified by 'made up for the example';
create definer = 'gone'@'10.30.%' view branch_billing.totals as select sum(amount) as total from branch_billing.invoices;
drop user 'gone'@'10.30.%';

-- the guarded schema: somebody made one before Fiador did
create database fiador_guard;
create table fiador_guard.notes (note varchar(200));
