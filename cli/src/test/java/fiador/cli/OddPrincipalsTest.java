package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Principals whose names look like something else. */
class OddPrincipalsTest {
  @TempDir Path folder;

  @Test
  void aRoleCalledPublicIsNotEverybody() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int)",
            "drop role if exists \"PUBLIC\"",
            "create role \"PUBLIC\" login",
            "create role e_ines login",
            "grant usage on schema s to \"PUBLIC\", e_ines",
            "grant select on s.t to \"PUBLIC\"");
    try {
      estate.charter(
          "users:\n  e_ines: {kind: person}\ngoverns: {schemas: [s], users: ['*'], roles: ['*']}\n");
      Program survey = estate.fiador("survey");
      assertThat(survey.code).as(survey.err).isZero();
      Program trace = estate.asked("trace", "e_ines", "select", "s.t");
      assertThat(trace.out).as(trace.err).startsWith("no");
      Program gap = estate.fiador("gap");
      assertThat(gap.out).doesNotContain("FROM PUBLIC").doesNotContain("TO PUBLIC");
    } finally {
      estate.run("drop owned by \"PUBLIC\"", "drop role \"PUBLIC\"");
    }
  }

  @Test
  void noCharterHasARoleCalledPublic() throws Exception {
    RealEstate estate = RealEstate.postgresql(folder, "create schema s");
    for (String name : new String[] {"PUBLIC", "public", "'\"Public\"'"}) {
      estate.charter("roles:\n  " + name + ": {purpose: access}\n");
      Program gap = estate.fiador("gap");
      assertThat(gap.code).as(name + gap.out).isEqualTo(2);
      assertThat(gap.err).as(name).contains("is everybody");
    }
  }

  @Test
  void aMariadbRoleWithAnAtInItsName() throws Exception {
    RealEstate estate =
        RealEstate.mariadb(
            folder,
            "create or replace database s",
            "create table s.t (a int)",
            "create or replace role `x@localhost`",
            "create or replace user e_ines",
            "grant select on s.t to `x@localhost`",
            "grant `x@localhost` to e_ines",
            "set default role `x@localhost` for e_ines");
    estate.charter("users:\n  e_ines: {kind: person}\n");
    Program survey = estate.fiador("survey");
    assertThat(survey.code).as(survey.err).isZero();
    assertThat(estate.asked("trace", "e_ines", "select", "s.t").out).startsWith("yes, live");
    estate.run("drop role `x@localhost`");
  }

  @Test
  void anHsqldbUserWithABlankInFront() throws Exception {
    RealEstate estate =
        RealEstate.hsqldb(
            folder,
            "create schema s authorization dba",
            "create table s.t (a int)",
            "create user \" INES\" password ''",
            "create user INES password ''",
            "grant select on s.t to \" INES\"");
    estate.charter(
        "users:\n  '\" INES\"': {kind: person, may: [select on table s.t]}\n  ines: {kind: person}\n"
            + "governs: {schemas: [s], users: ['*']}\n");
    estate.settled();
    estate.fiador("survey");
    assertThat(estate.asked("trace", "\" INES\"", "select", "s.t").out).startsWith("yes, live");
    assertThat(estate.asked("trace", "ines", "select", "s.t").out).startsWith("no");
  }

  @Test
  void aRoutineWhoseArgumentsHaveTypesOfASchema() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create type s.\"Mood, odd\" as enum ('a')",
            "create type s.pair as (a int, b int)",
            "create function s.f(s.\"Mood, odd\", s.pair) returns int language sql as 'select 1'",
            "create function s.f(int) returns int language sql as 'select 2'",
            "create role e_ines login");
    estate
        .charter(
            "roles:\n  e_run: {purpose: access, may: [usage on schema s, execute on every routine in s]}\n"
                + "users:\n  e_ines: {kind: person, roles: [e_run]}\n"
                + "governs: {schemas: [s], roles: [e_*], users: [e_*]}\n")
        .settled();
    estate.undone();
  }
}
