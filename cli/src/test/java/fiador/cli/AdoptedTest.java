package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A drafted charter says what it can, and names what it cannot. */
class AdoptedTest {
  @TempDir Path folder;

  @Test
  void whatIsLeftOutIsNamed() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int)",
            "create role e_temp login valid until '2031-05-01 00:00:00+00'",
            "create role e_odd login valid until '2031-05-01 10:00:00+00'",
            "create role e_admin login createdb",
            "grant pg_read_all_data to e_admin",
            "create role e_boss superuser",
            "grant e_boss to e_admin",
            "create type s.mood as enum ('a')",
            "grant usage on type s.mood to e_admin",
            "alter table s.t owner to e_admin");
    String own = estate.ask("select current_database()::text").get(0);
    estate.run("grant create on database " + own + " to e_admin");
    estate.charter("roles: {}\n");
    estate.fiador("survey");
    Path drafted = folder.resolve("drafted");
    Program adopt =
        Program.run(
            "adopt",
            drafted.toString(),
            "--from",
            folder.resolve(".fiador/it.survey.jsonl").toString(),
            "--url",
            estate.login.url(),
            "--login",
            estate.login.user());
    assertThat(adopt.code).as(adopt.out + adopt.err).isZero();
    assertThat(adopt.out)
        .contains(
            "no gap, but for what was left out",
            "e_admin holds e_boss, which no charter governs",
            "e_admin may create on database " + own,
            "e_admin owns " + own + ".s.t",
            "e_admin has rights on type s.mood in database " + own);
    assertThat(Files.readString(drafted.resolve("users.yaml")))
        .contains("until: 2031-04-30", "until: 2031-05-01 10:00")
        .contains("- create databases", "- pg_read_all_data");
    assertThat(Files.readString(drafted.resolve("fiador.yaml"))).contains("- pg_read_all_data");
  }

  @Test
  void aNameMadeFromAnAddressIsOneThatAShellKnows() throws Exception {
    RealEstate estate = RealEstate.postgresql(folder, "create schema s");
    Path survey = folder.resolve("s.jsonl");
    Program.run(
        "survey",
        "--url",
        estate.login.url(),
        "--login",
        estate.login.user(),
        "--to",
        survey.toString());
    Path drafted = folder.resolve("drafted");
    Program adopt = Program.run("adopt", drafted.toString(), "--from", survey.toString());
    assertThat(adopt.code).as(adopt.out + adopt.err).isZero();
    assertThat(Files.readString(drafted.resolve("fiador.yaml")))
        .containsPattern("\\$\\{SERVER_127_0_0_1_[0-9]+_PASSWORD:-}");
  }
}
