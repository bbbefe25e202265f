package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.InstanceOfAssertFactories.STRING;

import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Where something was not looked at, no answer sounds as if it had been. */
class NotLookedAtTest {
  @TempDir Path folder;
  private RealEstate estate;

  /** A reader who may not look into one of two databases, and sees no secrets. */
  @BeforeEach
  void aReaderWhoSeesPartOfIt() throws Exception {
    estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int)",
            "create role e_reader login",
            "create role e_out login valid until '2020-01-01'",
            "grant usage on schema s to e_out",
            "grant usage on schema s to public",
            "grant select on s.t to e_out",
            "create role e_owner login",
            "alter table s.t owner to e_owner",
            "drop database if exists e9001",
            "create database e9001",
            "revoke connect on database e9001 from public");
    estate.charter(
        "e_reader",
        """
        roles: {}
        governs: {schemas: [s], roles: [e_*]}
        proofs:
          - e_out can select e9001.archive.t
        """);
    Program survey = estate.fiador("survey");
    assertThat(survey.code).as(survey.err).isZero();
  }

  @Test
  void aFindingAskedForWithoutWhatItNeeds() {
    for (String finding : new String[] {"unused-account", "left-person", "weak-secret"}) {
      Program asked = estate.asked("findings", finding);
      assertThat(asked.code).as(finding).isEqualTo(2);
      assertThat(asked.out).as(finding).contains("not looked at").doesNotContain("nothing found");
    }
    Program json = estate.asked("findings", "weak-secret", "--format", "json");
    assertThat(json.code).isEqualTo(2);
    assertThat(json.err).contains("may not read pg_authid");
  }

  @Test
  void aDatabaseThatWasNotRead() {
    Program trace = estate.asked("trace", "e_out", "select", "e9001.archive.t");
    assertThat(trace.code).isEqualTo(2);
    assertThat(trace.err).contains("is not known: database e9001 was not looked into");
    Program prove = Program.run("prove", "--charter", folder.toString());
    assertThat(prove.code).as(prove.out + prove.err).isEqualTo(2);
    assertThat(prove.out).contains("1 of 1 proof not looked at", "not looked into");
    Program odd = estate.asked("findings", "orphaned-view");
    assertThat(odd.code).isEqualTo(2);
    assertThat(odd.out).contains("not looked into: database e9001");
  }

  @Test
  void whoCannotLogInIsNoPlainYes() {
    Program trace = estate.asked("trace", "e_out", "select", "s.t");
    assertThat(trace.out)
        .startsWith("yes, but cannot log in")
        .contains("the secret is not accepted since 2020-01-01");
    assertThat(estate.asked("holdings", "e_out").out)
        .contains("cannot log in now: the secret is not accepted since 2020-01-01");
    assertThat(estate.asked("holders", "s.t").out).contains("e_out (cannot log in)");
    String why = "\"cannot_log_in\":\"the secret is not accepted since 2020-01-01\"";
    assertThat(estate.asked("holders", "s.t", "--format", "jsonl").out.lines())
        .filteredOn(line -> line.contains(why))
        .singleElement(STRING)
        .contains("e_out");
    assertThat(estate.asked("trace", "e_out", "select", "s.t", "--format", "json").out)
        .contains("\"cannot_log_in\" : \"the secret is not accepted since 2020-01-01\"");
    Program review =
        Program.run("review", "open", "q", "--else", "rui", "--charter", folder.toString());
    assertThat(review.code).as(review.err).isZero();
    Program lines =
        Program.run("review", "status", "q", "--format", "jsonl", "--charter", folder.toString());
    assertThat(lines.out.lines())
        .filteredOn(line -> line.contains("; cannot log in: the secret is not accepted"))
        .isNotEmpty()
        .allMatch(line -> line.contains("e_out"));
  }

  @Test
  void listsSayWhatTheyCannotKnow() {
    String note = "did not look into database e9001; what is held there is not known";
    assertThat(estate.asked("holders", "s.t").err).contains(note);
    assertThat(estate.asked("holdings", "e_out", "--format", "csv").err).contains(note);
  }

  @Test
  void ownersAndSuperusersGetRound() throws Exception {
    estate
        .charter(
            "roles: {}\ngoverns: {schemas: [s]}\nrow_policies:\n  own: {on: s.t, rows: a > 3}\n")
        .settle();
    Program bypass = estate.asked("bypass");
    assertThat(bypass.code).as(bypass.out).isEqualTo(1);
    assertThat(bypass.out)
        .startsWith("only superusers and owners get round policies")
        .contains("nothing stops who owns", "e_owner")
        .contains("superusers", "postgres");
  }

  @Test
  void aClosedDatabaseLetsNobodyIn() throws Exception {
    estate.run("alter database e9001 with allow_connections false");
    estate.fiador("survey");
    Program trace = estate.asked("trace", "postgres", "connect", "e9001");
    assertThat(trace.code).isEqualTo(1);
    assertThat(trace.out).startsWith("no, blocked");
  }
}
