package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What was given for a time that is over goes by a timer, and nothing else does. */
class EndedTest {
  private static final String CHARTER =
      """
      roles: {reader: {may: [select on s.t until 2026-01-31]}, writer: {}, missing: {}}
      users:
        e_joao: {kind: person, roles: [reader, writer until 2026-01-31, missing until 2099-12-31]}
      """;

  @TempDir Path folder;

  @Test
  void onlyWhatHasEndedIsTakenByATimer() throws Exception {
    RealEstate estate =
        RealEstate.hsqldb(
            folder,
            "create schema s",
            "create table s.t (a int)",
            "create role reader",
            "create role writer",
            "create user e_joao password 'x'",
            "grant select on s.t to reader",
            "grant insert on s.t to reader",
            "grant reader to e_joao",
            "grant writer to e_joao");
    estate.charter(CHARTER);
    Program look = estate.fiador("settle", "--only-ended", "--dry-run");
    assertThat(look.code).isEqualTo(1);
    assertThat(look.out)
        .contains("REVOKE \"WRITER\" FROM \"E_JOAO\"", "REVOKE SELECT ON")
        .doesNotContain("CREATE", "INSERT", "GRANT");
    assertThat(look.err)
        .contains("its time is over: writer of e_joao, until 2026-01-31")
        .contains("select on s.t to reader, until 2026-01-31");
    estate.fiador("survey");
    assertThat(estate.asked("findings", "past-term").out)
        .contains("past-term, high: 2 found")
        .contains("e_joao still holds writer, given until 2026-01-31")
        .contains("reader still has grants on s.t, given until 2026-01-31");
    Program ended = estate.fiador("settle", "--only-ended");
    assertThat(ended.code).as(ended.err).isZero();
    assertThat(ended.out)
        .contains("1 membership", "surveyed again: nothing that has ended is left");
    Program again = estate.fiador("settle", "--only-ended");
    assertThat(again.code).isZero();
    assertThat(again.out).contains("nothing to do: nothing that has ended is left on it");
    assertThat(again.err).isEmpty();
    // what else differs is not its matter
    assertThat(estate.fiador("gap").out).contains("CREATE ROLE \"MISSING\"");
    assertThat(estate.asked("findings", "past-term").out)
        .contains("past-term, high: nothing found");
    assertThat(estate.fiador("settle", "--only-ended", "--drop").err)
        .contains("goes with neither --drop");
  }
}
