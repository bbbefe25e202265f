package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** After a settle that was refused or stopped, whatever somebody did by hand since. */
class StoppedSettleTest {
  @TempDir Path folder;

  private static final String TWO_ROLES =
      """
      roles:
        e_a: {purpose: access, may: [usage on schema s, select on table s.t]}
        pg_no: {purpose: access}
      governs: {schemas: [s], roles: [e_*]}
      """;

  private RealEstate refused() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int, b int)",
            "create table s.u (a int)");
    Program refused = estate.charter(TWO_ROLES).settle();
    assertThat(refused.code).as(refused.err).isEqualTo(3);
    assertThat(refused.err).contains("nothing of this database's part was changed");
    return estate;
  }

  @Test
  void aRefusedSettleLeavesNothingToResumeOrUndo() throws Exception {
    RealEstate estate = refused();
    // part of it comes about by hand
    estate.run("create role e_a", "grant usage on schema s to e_a");
    assertThat(estate.settle("--resume").out).contains("refused, and nothing was changed");
    assertThat(estate.settle("--undo").out).contains("refused, and nothing was changed");
    estate.run("drop table s.u");
    estate.charter(TWO_ROLES.replace("  pg_no: {purpose: access}\n", "")).settled();
  }

  @Test
  void historyBlamesNoSettleThatWasRolledBack() throws Exception {
    RealEstate estate = refused();
    estate.run("create role e_by_hand");
    estate.fiador("survey");
    Program history = estate.fiador("history");
    assertThat(history.out).contains("e_by_hand").doesNotContain("settle by");
  }

  private RealEstate halfWay(String more) throws Exception {
    RealEstate estate =
        RealEstate.mariadb(
            folder,
            "create or replace database s",
            "create table s.t (a int, b int)",
            "create table s.u (a int)",
            "drop role if exists e_a",
            "drop role if exists e_b",
            "create or replace user e_clerk identified by ''",
            "grant select, create user, reload on *.* to e_clerk with grant option",
            "grant insert, update on s.t to e_clerk with grant option");
    estate.charter(
        "roles:\n"
            + "  e_a: {purpose: access, may: ['select, insert on table s.t', select on table s.u]}\n"
            + "  e_b: {purpose: access, may: [select (b) on table s.t]}\n"
            + more
            + "governs: {schemas: [s], roles: [e_*]}\n");
    return estate;
  }

  @Test
  void whatWasDroppedSinceIsSaidAndCanBeLeftOut() throws Exception {
    RealEstate estate = halfWay("");
    estate.settled();
    estate.run("revoke select on s.u from e_a", "revoke insert on s.t from e_a");
    estate
        .charter("roles:\n  e_a: {purpose: access}\ngoverns: {schemas: [s], roles: [e_*]}\n")
        .settled("--drop");
    estate.run("alter table s.t drop column b", "drop table s.u");
    Program undo = estate.settle("--undo");
    assertThat(undo.code).as(undo.out + undo.err).isEqualTo(4);
    assertThat(undo.err).contains("no column b of s.t any more", "--skip-gone leaves it out");
    Program skipped = estate.settle("--undo", "--skip-gone");
    assertThat(skipped.code).as(skipped.err).isZero();
  }

  @Test
  void aJournalNeverBreaksTheProgram() throws Exception {
    RealEstate estate = halfWay("");
    estate.settled();
    Path journal = folder.resolve(".fiador/it.journal.jsonl");
    List<String> lines = Files.readAllLines(journal);
    // stopped before its end, as far as it says
    Files.write(journal, lines.subList(0, lines.size() - 1));
    estate.run("revoke select on s.t from e_a", "drop table s.u");
    Program settle = estate.settle();
    assertThat(settle.code).as(settle.err).isEqualTo(4);
    assertThat(settle.err).contains("stopped half-way", "--anew forgets it");
    Program resume = estate.settle("--resume");
    assertThat(resume.code).as(resume.err).isEqualTo(4);
    assertThat(resume.err).contains("no table s.u any more");
    assertThat(estate.settle("--resume", "--skip-gone").code).isZero();
    Files.write(journal, lines.subList(0, lines.size() - 1));
    estate.charter(
        "roles:\n  e_a: {purpose: access, may: ['insert on table s.t']}\n"
            + "governs: {schemas: [s], roles: [e_*]}\n");
    estate.settled("--anew");
  }
}
