package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a charter does not govern and reaches what it does is said with every gap. */
class OutsideTest {
  @TempDir Path folder;

  @Test
  void onMariadb() throws Exception {
    RealEstate estate =
        RealEstate.mariadb(
            folder,
            "create or replace database s",
            "create or replace database e_new",
            "create table e_new.t (a int)",
            "create table s.t (a int)",
            "create or replace user e_ines",
            "create or replace user e_broad",
            "grant select on *.* to e_broad");
    estate.charter("users:\n  e_ines: {kind: person}\ngoverns: {schemas: [s], users: [e_i*]}\n");
    String said = estate.fiador("gap").err;
    assertThat(said)
        .contains("not governed, and reaching what is", "e_broad@% (select on everything)")
        .contains("no line of the charter governs", "schema e_new");
    estate.run("drop user e_broad", "drop database e_new");
  }

  @Test
  void onPostgresql() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int)",
            "create role e_ines login",
            "create role o_other login",
            "grant pg_read_all_data to e_ines",
            "grant usage on schema s to o_other",
            "create schema later",
            "create table later.t (a int)");
    String own = estate.ask("select current_database()::text").get(0);
    try {
      estate.charter("users:\n  e_ines: {kind: person}\ngoverns: {schemas: [s], users: [e_*]}\n");
      assertThat(estate.fiador("gap").err)
          .contains("e_ines (member of pg_read_all_data)")
          .contains("everybody (connect, temporary on " + own + ")")
          .contains("o_other (usage on " + own + ".s)")
          .contains("schema " + own + ".later", "user o_other");
    } finally {
      estate.run("drop owned by o_other", "drop role o_other");
    }
  }
}
