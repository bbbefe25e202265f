package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a charter made goes again in one settle, and nothing goes that was not said. */
class RemovalTest {
  @TempDir Path folder;

  private static final String EVERYTHING =
      """
      roles:
        e_owner: {purpose: owner%s}
        e_read: {purpose: access, may: ["select on every table in s, now and later"]}
      users:
        e_ines: {kind: person, roles: [e_read], attributes: {area: [north]}}
      governs: {schemas: [s], users: [e_*], roles: [e_*]}
      lookups:
        desk: {table: s.desks, key: who, value: area}
      row_policies:
        own: {on: s.t, rows: area in user.area or area in lookup(desk)}
      mask_policies:
        hidden: {on: s.t.area, clear_for: [role e_read], mask: stars}
      """;

  private static final String NOTHING =
      """
      roles: {}
      users: {}
      governs: {schemas: [s], users: [e_*], roles: [e_*]}
      row_policies: {}
      mask_policies: {}
      """;

  private static final String[] TABLES = {
    "create table s.t (id int, area varchar(20))",
    "create table s.desks (who varchar(20), area varchar(20))"
  };

  private void comesAndGoes(RealEstate estate, String owns, String guards) throws Exception {
    estate.charter(String.format(EVERYTHING, owns)).settled();
    estate.charter(NOTHING);
    assertThat(estate.fiador("gap").err).contains("--drop takes it away");
    Program gone = estate.settled("--drop");
    assertThat(gone.out).contains("surveyed again: no gap");
    assertThat(estate.ask(guards)).isEmpty();
    estate.undone();
    Program back = estate.charter(String.format(EVERYTHING, owns)).fiador("gap");
    assertThat(back.code).as(back.out + back.err).isZero();
  }

  @Test
  void fromPostgresql() throws Exception {
    RealEstate estate = RealEstate.postgresql(folder, "create schema s", TABLES[0], TABLES[1]);
    comesAndGoes(
        estate,
        ", owns: [schema s and everything in it]",
        "select nspname from pg_namespace where nspname = 'fiador_guard'");
  }

  @Test
  void fromMariadb() throws Exception {
    RealEstate estate =
        RealEstate.mariadb(
            folder,
            "drop database if exists fiador_guard",
            "create or replace database s",
            "drop user if exists e_ines",
            "drop role if exists e_owner",
            "drop role if exists e_read",
            TABLES[0],
            TABLES[1]);
    comesAndGoes(
        estate,
        "",
        "select schema_name from information_schema.schemata where schema_name = 'fiador_guard'");
  }

  @Test
  void fromHsqldb() throws Exception {
    RealEstate estate =
        RealEstate.hsqldb(folder, "create schema s authorization dba", TABLES[0], TABLES[1]);
    comesAndGoes(
        estate,
        "",
        "select schema_name from information_schema.schemata where schema_name = 'FIADOR_GUARD'");
  }

  @Test
  void whoeverLeavesKeepsNothingAnywhere() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create schema other",
            "create table other.t (a int, b int)",
            "create role e_gone login",
            "create role e_friend",
            "grant e_friend to e_gone",
            "grant usage on schema other to e_gone",
            "grant select on other.t to e_gone with grant option",
            "grant update (b) on other.t to e_gone",
            "alter default privileges in schema other grant select on tables to e_gone",
            "alter default privileges for role e_gone in schema s grant select on tables to e_friend",
            "create table s.his (a int)",
            "alter table s.his owner to e_gone");
    estate.as("e_gone", "", "grant select on other.t to e_friend");
    estate.charter(
        "roles:\n  e_friend: {purpose: access}\nusers: {}\n"
            + "governs: {schemas: [s], users: [e_*], roles: [e_*]}\n");
    assertThat(estate.fiador("gap", "--drop").err)
        .contains("what e_gone owns goes to whoever owns the database, postgres");
    estate.settled("--drop");
    estate.undone();
  }

  @Test
  void whatNoSentenceIsAboutStopsADrop() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create role e_gone login",
            "create type s.mood as enum ('a')",
            "alter type s.mood owner to e_gone",
            "grant set on parameter log_statement to e_gone",
            "select lo_create(4711)",
            "grant select on large object 4711 to e_gone",
            "grant usage on language plpgsql to e_gone",
            "create foreign data wrapper f",
            "create server away foreign data wrapper f",
            "grant usage on foreign server away to e_gone",
            "create user mapping for e_gone server away");
    estate.charter("roles: {}\nusers: {}\ngoverns: {schemas: [s], users: [e_*], roles: [e_*]}\n");
    Program refused = estate.settle("--drop");
    assertThat(refused.code).isEqualTo(2);
    assertThat(refused.err).contains("e_gone cannot be dropped", "owns type s.mood", "and 1 more");
    estate.fiador("survey");
    Program held = estate.asked("holdings", "e_gone");
    assertThat(held.out + held.err)
        .contains("type s.mood", "parameter log_statement", "large object 4711", "server away");
  }
}
