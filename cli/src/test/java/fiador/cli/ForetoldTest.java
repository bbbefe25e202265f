package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a gap foretells of what people see is what they see after the settle. */
class ForetoldTest {
  @TempDir Path folder;

  private static final String READS =
      """
      users:
        e_ines: {kind: person, may: [select on table s.t]}
      roles:
        e_in: {purpose: access, may: [usage on schema s]}
      governs: {schemas: [s], users: ['e_*']}
      """;

  private static String policies(String combine, String mask) {
    return "row_policies:\n  own: {on: s.t, rows: id > 1, combine: "
        + combine
        + "}\n"
        + (mask == null
            ? "mask_policies: {}\n"
            : "mask_policies:\n  m: {on: s.t.few, mask: " + mask + "}\n");
  }

  private static void asForetold(RealEstate estate, boolean gates, String ines, String... counts)
      throws Exception {
    String readers = gates ? READS.replace("may: [select", "roles: [e_in], may: [select") : READS;
    estate.charter(readers + "row_policies: {}\nmask_policies: {}\n").settled();
    Program gap =
        estate.charter(readers + policies("all", null)).fiador("gap", "--format", "jsonl");
    assertThat(gap.out).containsIgnoringCase("\"rows_is\":\"id > 1\"");
    estate.settled();
    assertThat(estate.askAs(ines, counts[0])).containsExactly("2");
    // the same table shown otherwise again and again
    for (String mask : new String[] {"zero", "blank", "fixed('7')", "round_to(10)", null}) {
      estate.charter(readers + policies("all", mask)).settled();
      assertThat(estate.askAs(ines, mask == null ? counts[0] : counts[1]))
          .as(mask)
          .containsExactly("2");
    }
    estate.charter(readers + policies("any", "zero")).settled();
    estate.undone();
  }

  @Test
  void onPostgresql() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (id int, few smallint, many bigint)",
            "insert into s.t values (1, 1, 1), (2, 2, 2), (3, 3, 3)",
            "create role e_ines login");
    asForetold(estate, true, "e_ines", "select count(*) from s.t", "select count(*) from s.t_safe");
  }

  @Test
  void onMariadb() throws Exception {
    RealEstate estate =
        RealEstate.mariadb(
            folder,
            "drop database if exists fiador_guard",
            "create or replace database s",
            "create table s.t (id int, few smallint, many bigint)",
            "insert into s.t values (1, 1, 1), (2, 2, 2), (3, 3, 3)",
            "create or replace user e_ines");
    asForetold(
        estate, false, "e_ines", "select count(*) from s.t_safe", "select count(*) from s.t_safe");
  }

  @Test
  void onHsqldb() throws Exception {
    RealEstate estate =
        RealEstate.hsqldb(
            folder,
            "create schema s authorization dba",
            "create table s.t (id int, few smallint, many bigint)",
            "insert into s.t values (1, 1, 1), (2, 2, 2), (3, 3, 3)",
            "create user e_ines password ''");
    asForetold(
        estate, false, "E_INES", "select count(*) from s.t_safe", "select count(*) from s.t_safe");
  }

  private static final String WRITERS =
      """
      users:
        e_ines: {kind: person, may: ["select, update on table s.t", usage on schema s]}
      governs: {schemas: [s], users: ['e_*']}
      mask_policies:
        m: {on: s.t.few, mask: zero}
      """;

  private static final String HIDING = WRITERS + "row_policies: {r: {on: s.t, rows: id = 1}}\n";

  /** What a writer can do beside masks, and what needs a masked column. */
  private static void goesOnWriting(RealEstate estate, String user) throws Exception {
    RealEstate charter = estate.charter(WRITERS.replace("e_*", "*"));
    assertThat(charter.fiador("gap").err)
        .contains("an update or delete that looks at a masked one fails from then on for " + user);
    charter.settled();
    String name = user.replaceAll("@.*", "");
    estate.as(name, "", "update s.t set few = 7 where id = 1");
    assertThat(estate.askAs(name, "select id from s.t")).containsExactly("1");
    assertThat(estate.askAs(name, "select few from s.t_safe")).containsExactly("0");
    assertThatThrownBy(() -> estate.askAs(name, "select few from s.t"))
        .isInstanceOf(SQLException.class);
    assertThatThrownBy(() -> estate.as(name, "", "update s.t set id = 2 where few = 7"))
        .isInstanceOf(SQLException.class);
    assertThat(estate.fiador("bypass").out).doesNotContain(user);
  }

  @Test
  void whoWritesGoesOnReadingWhatNobodyMasked() throws Exception {
    goesOnWriting(
        RealEstate.postgresql(
            Files.createDirectory(folder.resolve("postgresql")),
            "create schema s",
            "create table s.t (id int, few smallint)",
            "insert into s.t values (1, 1)",
            "create role e_ines login",
            "grant usage on schema s to e_ines",
            "grant select, update on s.t to e_ines"),
        "e_ines");
    goesOnWriting(
        RealEstate.mariadb(
            Files.createDirectory(folder.resolve("mariadb")),
            "drop database if exists fiador_guard",
            "create or replace database s",
            "create table s.t (id int, few smallint)",
            "insert into s.t values (1, 1)",
            "create or replace user e_ines",
            "grant select, update on s.t to e_ines"),
        "e_ines@%");
    goesOnWriting(
        RealEstate.hsqldb(
            Files.createDirectory(folder.resolve("hsqldb")),
            "create schema s authorization dba",
            "create table s.t (id int, few smallint)",
            "insert into s.t values (1, 1)",
            "create user e_ines password ''",
            "grant select, update on s.t to e_ines"),
        "E_INES");
  }

  @Test
  void whoeverCanNoLongerWriteIsNamed() throws Exception {
    RealEstate estate =
        RealEstate.mariadb(
            folder,
            "drop database if exists fiador_guard",
            "create or replace database s",
            "create table s.t (id int, few smallint)",
            "create or replace user e_ines",
            "grant select, update on s.t to e_ines");
    assertThat(estate.charter(HIDING).fiador("gap").err)
        .contains("an update or delete with a condition fails from then on for e_ines@%");
    RealEstate hsqldb =
        RealEstate.hsqldb(
            folder,
            "create schema s authorization dba",
            "create table s.t (id int, few smallint)",
            "insert into s.t values (1, 1)",
            "create user e_ines password ''",
            "grant select, update on s.t to e_ines");
    assertThat(hsqldb.charter(HIDING.replace("e_*", "*")).fiador("gap").err)
        .contains("lets whoever holds any right on it count its rows: E_INES");
    hsqldb.settled();
    // it is so
    assertThat(hsqldb.askAs("E_INES", "select count(*) from s.t")).containsExactly("1");
  }

  @Test
  void whatAServerCannotSayIsSaidBeforeASettle() throws Exception {
    RealEstate estate =
        RealEstate.hsqldb(
            folder, "create schema s authorization dba", "create table s.t (id int, day date)");
    Program gap =
        estate
            .charter(
                "governs: {schemas: [s]}\nrow_policies:\n"
                    + "  own: {on: s.t, rows: \"day > date '1582-10-10' or id = 1\"}\n")
            .fiador("gap");
    assertThat(gap.code).isEqualTo(2);
    assertThat(gap.err).contains("has no days from 1582-10-05 to 1582-10-14");
  }
}
