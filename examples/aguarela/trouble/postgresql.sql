-- What went wrong at Aguarela Waterworks, all of it made up: run on a PostgreSQL on which the charter was
-- settled, then surveyed as waterworks.survey.jsonl.gz. fiador findings tells each of these.

-- accounts: of somebody who left, of nobody, a second one of Ines, one past its date, a robot nobody uses
create role "hugo.brito" login;
grant network_read to "hugo.brito";
create role test2 login;
create role "ines.admin" login;
grant platform_operator to "ines.admin";
alter role "nuno.faria" valid until '2026-06-30';
create role meter_robot login;
grant metering_write to meter_robot;

-- rights: straight to a person, to everybody, past a reader, handed on, over what nobody granted for later
grant select on billing.invoices to "bruno.aires";
grant select on network.incidents to public;
create role sensor_read;
grant usage on schema metering to sensor_read;
grant select on metering.meters, metering.readings to sensor_read;
grant sensor_read to incident_feed;
create role sensor_read_2;
grant usage on schema metering to sensor_read_2;
grant select on metering.meters, metering.readings to sensor_read_2;
grant sensor_read_2 to incident_feed;
create role night_reports;
grant usage on schema network to night_reports;
grant select on network.pipes, network.valves, network.incidents, network.desks to night_reports;
grant night_reports to night_watch;
create role valve_fix;
grant usage on schema network to valve_fix;
grant update on network.desks to valve_fix;
grant valve_fix to test2;
grant select on network.valves to meter_planner with grant option;
grant select on network.pipes to control_room;
create role audit_read;
grant select on billing.invoices to audit_read;
grant audit_read to night_watch;
create role "TempFix";
grant usage on schema billing to "TempFix";
grant select on billing.invoices to "TempFix";
grant "TempFix" to test2;

-- roles: held by nobody, held twice, both halves of a duty, given on by people, a user as a role
create role old_import;
grant metering_read to meter_planner;
grant billing_approver to "tomas.reis";
grant control_room to "rui.teles" with admin option;
grant "ines.duarte" to "joao.serra";
create role contractor_trial login;
grant contractor to contractor_trial with inherit false;
create role legacy_1; create role legacy_2; create role legacy_3;
create role legacy_4; create role legacy_5; create role legacy_6;
grant legacy_6 to legacy_5; grant legacy_5 to legacy_4; grant legacy_4 to legacy_3;
grant legacy_3 to legacy_2; grant legacy_2 to legacy_1; grant legacy_1 to "vera.lobo";
grant usage on schema network to legacy_6;
create role app_01; create role app_02; create role app_03; create role app_04; create role app_05;
create role app_06; create role app_07; create role app_08; create role app_09; create role app_10;
create role app_11; create role app_12;
grant app_01, app_02, app_03, app_04, app_05, app_06, app_07, app_08, app_09, app_10, app_11, app_12 to "bruno.aires";

-- powers: one that reads everything, and a way to become administrator
create role backup_bot login;
grant pg_read_all_data to backup_bot;
create role maintenance;
grant pg_execute_server_program to maintenance;
grant maintenance to night_watch with admin true, inherit false, set false;
set password_encryption = 'md5';
alter role "vera.lobo" password 'made up for the example';

-- things: made by a person, by the wrong role, a view that leaks, rules switched off
create table network.leak_notes (note varchar(200));
alter table network.leak_notes owner to "joao.serra";
alter table network.valves owner to network_write;
create view billing.phone_list as select full_name, phone from billing.customers;
grant select on billing.phone_list to leak_analyst;
create view metering.all_readings as select * from metering.readings;
grant select on metering.all_readings to data_scientist;
alter table metering.meters disable row level security;
