package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** One settle makes a server what the charter says, whatever was there before. */
class OneSettleTest {
  @TempDir Path folder;

  private static final String OWNED =
      """
      roles:
        e_owner: {purpose: owner, owns: [schema loans and everything in it]}
        e_read: {purpose: access, may: ['select on every table in loans, now and later']}
      users:
        e_ines: {kind: person, roles: [e_read]}
      governs: {schemas: [loans], roles: [e_*], users: [e_*]}
      """;

  private RealEstate loans() throws Exception {
    return RealEstate.postgresql(
        folder,
        "create schema loans",
        "create table loans.loans (id int, borrower text)",
        "create table loans.books (id int)",
        "create role e_old",
        "alter schema loans owner to e_old",
        "alter table loans.loans owner to e_old");
  }

  @Test
  void anOwnerOfASchemaAndAMaskInIt() throws Exception {
    RealEstate estate = loans().charter(OWNED);
    estate.settled();
    estate
        .charter(OWNED + "mask_policies:\n  hide: {on: loans.loans.borrower, mask: stars}\n")
        .settled();
    estate.undone();
  }

  @Test
  void whoIsNewAndOwnsThingsAtOnceIsNotDropped() throws Exception {
    RealEstate estate = loans().charter(OWNED);
    Program gap = estate.fiador("gap", "--drop");
    assertThat(gap.err).doesNotContain("e_owner");
    assertThat(gap.out).doesNotContain("DROP ROLE \"e_owner\"");
    estate.settled("--drop");
    assertThat(estate.ask("select rolname::text from pg_roles where rolname ~ '^e_'"))
        .containsExactlyInAnyOrder("e_owner", "e_read", "e_ines");
  }

  @Test
  void ownersAndMasksAtOnce() throws Exception {
    RealEstate estate =
        loans()
            .charter(
                OWNED
                    + "mask_policies:\n  hide: {on: loans.loans.borrower, mask: stars}\n"
                    + "row_policies:\n  own: {on: loans.books, rows: id > 3}\n");
    estate.settled();
    estate.undone();
    estate.settled();
  }

  /** One who gave on what the charter leaves to the other alone. */
  private RealEstate giver() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int)",
            "create role e_giver login",
            "create role e_taker login",
            "grant usage on schema s to e_giver, e_taker",
            "grant select on s.t to e_giver with grant option");
    estate.as("e_giver", "", "grant select on s.t to e_taker");
    return estate.charter(
        """
        users:
          e_taker: {kind: person, may: [usage on schema s, select on table s.t]}
          e_giver: {kind: person}
        governs: {schemas: [s], users: [e_*]}
        """);
  }

  @Test
  void aGiverWhoseGateGoesToo() throws Exception {
    RealEstate estate = giver();
    estate.settled();
    estate.undone();
  }

  @Test
  void aGiverWhoHadLostHisGate() throws Exception {
    RealEstate estate = giver();
    estate.run("revoke usage on schema s from e_giver");
    estate.settled();
    estate.undone();
  }

  @Test
  void aRowPolicyThatSomebodyDroppedComesBack() throws Exception {
    RealEstate estate =
        loans().charter(OWNED + "row_policies:\n  own: {on: loans.books, rows: id > 3}\n");
    estate.settled();
    estate.run("drop policy own on loans.books");
    estate.settled();
    estate.run("alter table loans.books disable row level security");
    estate.settled();
    estate.run(
        "alter table loans.books disable row level security", "drop policy own on loans.books");
    estate.settled();
    assertThat(
            estate.ask(
                "select polname::text from pg_policy where polrelid = 'loans.books'::regclass"))
        .contains("own");
  }

  @Test
  void aUserWhoWasDisabledCanLogInAgain() throws Exception {
    RealEstate estate = RealEstate.postgresql(folder, "create schema s");
    String users = "users:\n  e_ines: {kind: person%s}\ngoverns: {schemas: [s], users: [e_*]}\n";
    estate.charter(String.format(users, ", disabled: true")).settled();
    estate.charter(String.format(users, "")).settled();
    estate.run("alter role e_ines nologin");
    estate.settled();
    estate.undone();
  }

  private static final String LOOKED_UP =
      """
      users:
        e_ines: {kind: person, may: ["select on every table in s, now"], attributes: {area: [north]}}
      governs: {schemas: [s], users: [e_*]}
      lookups:
        desk: {table: s.desks, key: who, value: area}
      row_policies:
        own: {on: s.t, rows: area in user.area or area in lookup(desk)}
      """;

  private static final String[] TABLES = {
    "create table s.t (id int, area varchar(20))",
    "create table s.desks (who varchar(20), area varchar(20))"
  };

  @Test
  void aLookupThatSomebodyDroppedOrChangedComesBackOnPostgresql() throws Exception {
    RealEstate estate = RealEstate.postgresql(folder, "create schema s", TABLES[0], TABLES[1]);
    estate.charter(LOOKED_UP).settled();
    estate.run("drop view fiador_guard.lookup_desk cascade");
    estate.settled();
    estate.run(
        "create or replace view fiador_guard.lookup_desk with (security_barrier = true) as"
            + " select area::text as value from s.desks");
    estate.settled();
    assertThat(estate.ask("select pg_get_viewdef('fiador_guard.lookup_desk'::regclass)").get(0))
        .contains("WHERE");
  }

  @Test
  void whatSomebodyDroppedComesBackOnMariadb() throws Exception {
    RealEstate estate =
        RealEstate.mariadb(
            folder,
            "drop database if exists fiador_guard",
            "create or replace database s",
            "create or replace user e_ines",
            TABLES[0],
            TABLES[1]);
    comesBack(estate.charter(LOOKED_UP), "", "e_ines@'%'");
  }

  @Test
  void whatSomebodyDroppedComesBackOnHsqldb() throws Exception {
    RealEstate estate =
        RealEstate.hsqldb(folder, "create schema s authorization dba", TABLES[0], TABLES[1]);
    comesBack(estate.charter(LOOKED_UP), " cascade", "e_ines");
  }

  private static void comesBack(RealEstate estate, String cascade, String ines) throws Exception {
    estate.settled();
    estate.run("drop view fiador_guard.lookup_desk" + cascade);
    estate.settled();
    estate.run("drop view s.t_safe" + cascade);
    estate.settled();
    estate.run("revoke select on s.t_safe from " + ines + (cascade.isEmpty() ? "" : " restrict"));
    estate.settled();
    estate.run("delete from fiador_guard.attributes");
    estate.settled();
    estate.undone();
  }
}
