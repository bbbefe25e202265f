package fiador.sqltext.needs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.effects.Need;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.MariadbRules;
import fiador.grants.rules.PostgresqlRules;
import fiador.sqltext.lineage.NotUnderstood;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What statements need; that servers ask for just that is tried in the module of the servers. */
final class StatementNeedsTest {
  private static Access access(HouseRules rules) {
    boolean upper = rules.kind().equals(HsqldbRules.KIND);
    TinyEstate tiny = new TinyEstate(rules).users("ines");
    String prefix = "";
    if (rules.kind().equals(PostgresqlRules.KIND)) {
      tiny.node(NodeKind.DATABASE, "d");
      prefix = "d.";
    }
    String s = prefix + (upper ? "S" : "s");
    String o = prefix + (upper ? "O" : "o");
    return tiny.node(NodeKind.SCHEMA, s)
        .node(NodeKind.TABLE, s + (upper ? ".T" : ".t"), columns(upper, "a", "b", "c"))
        .node(NodeKind.TABLE, s + (upper ? ".U" : ".u"), columns(upper, "a", "d"))
        .node(NodeKind.VIEW, s + (upper ? ".V" : ".v"), columns(upper, "g"))
        .node(NodeKind.TABLE, s + ".Odd \"Name\"", "it's; x")
        .node(NodeKind.SCHEMA, o)
        .node(NodeKind.TABLE, o + (upper ? ".U" : ".u"), columns(upper, "a"))
        .node(NodeKind.ROUTINE, s + (upper ? ".F(INTEGER)" : ".f(integer)"))
        .build();
  }

  private static String[] columns(boolean upper, String... names) {
    return List.of(names).stream()
        .map(name -> upper ? name.toUpperCase(Locale.ROOT) : name)
        .toArray(String[]::new);
  }

  private static String needs(HouseRules rules, String sql) throws NotUnderstood {
    Access access = access(rules);
    TreeSet<String> found = new TreeSet<>();
    for (Need need : StatementNeeds.of(access, sql)) {
      String on = access.tree().name(need.node());
      if (need instanceof Need.Right right) {
        String columns =
            right.anyPart()
                ? "(any)"
                : right.columns() == null
                    ? ""
                    : right.columns().stream()
                        .mapToObj(ordinal -> access.tree().column(need.node(), ordinal))
                        .collect(Collectors.joining(" ", "(", ")"));
        boolean many = Long.bitCount(right.anyOf()) > 1;
        String what =
            many
                ? Long.bitCount(right.anyOf()) + " rights"
                : PrivilegeSet.list(right.anyOf()).stream()
                    .map(Privilege::text)
                    .collect(Collectors.joining());
        found.add((what + " " + on + columns).toLowerCase(Locale.ROOT));
      } else {
        found.add(("own " + on).toLowerCase(Locale.ROOT));
      }
    }
    return String.join(", ", found);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "select a from s.t | select t(a)",
        "select x.a + 1 from s.t x where b is null order by c | select t(a b c)",
        "select * from s.t | select t(a b c)",
        "select x.* from s.t x, s.u y where y.d = 1 | select t(a b c), select u(d)",
        "select count(*) from s.t | select t(any)",
        "select 1 from s.t | select t(any)",
        "select a as z from s.t order by z | select t(a)",
        "select d from s.t join s.u using (a) | select t(a), select u(a d)",
        "select d from s.t natural join s.u | select t(a), select u(a d)",
        "select (select max(d) from s.u where u.a = t.b) from s.t | select t(b), select u(a d)",
        "select 1 from s.t where exists (select * from s.u) | select t(any), select u(a d)",
        "select 1 from s.t where a in (select d from s.u) | select t(a), select u(d)",
        "with q as (select a, b from s.t) select b from q | select t(a b)",
        "with q (x) as (select a from s.t) select x from q | select t(a)",
        "select z.x from (select a as x from s.t) z | select t(a)",
        "select a from s.t union select d from s.u | select t(a), select u(d)",
        "select a, rank() over (partition by b order by c) from s.t | select t(a b c)",
        "select s.f(a) from s.t | execute f(integer), select t(a)",
        "select t from s.t | select t(a b c)",
        "select a from s.t for update | select t(a), update t(any)",
        "select a from s.t offset (select max(d) from s.u) | select t(a), select u(d)",
        "select a from s.t fetch first (select max(d) from s.u) rows only | select t(a), select u(d)",
        "select g from s.v | select v(g)",
        "select \"it's; x\" from s.\"Odd \"\"Name\"\"\" | select odd \"name\"(it's; x)",
        "insert into s.t (a, c) values (1, 2) | insert t(a c)",
        "insert into s.t values (1, 2) | insert t(a b)",
        "insert into s.t (a) select d from s.u | insert t(a), select u(d)",
        "insert into s.t (a) values (1) returning b | insert t(a), select t(b)",
        "insert into s.t (a) values (1) on conflict (b) do update set c = excluded.a | insert t(a), select t(a b), update t(c)",
        "update s.t set a = 1 | update t(a)",
        "update s.t set a = b where c > 1 | select t(b c), update t(a)",
        "update s.t set a = u.d from s.u where u.a = t.b | select t(b), select u(a d), update t(a)",
        "delete from s.t | delete t",
        "delete from s.t where a = 1 | delete t, select t(a)",
        "delete from s.t using s.u where u.d = t.a | delete t, select t(a), select u(d)",
        "merge into s.t using s.u on t.a = u.a when matched then update set b = u.d | select t(a), select u(a d), update t(b)",
        "merge into s.t using s.u on t.a = u.a when not matched then insert (c) values (5) | insert t(c), select t(a), select u(a)",
        "truncate table s.t | truncate t",
        "create table s.fresh (z int) | create s",
        "create table s.fresh as select a from s.t | create s, select t(a)",
        "create view s.fresh as select a from s.t | create s, usage s",
        "drop table s.t | own t",
      })
  void onPostgresql(String sql, String needed) throws Exception {
    assertThat(needs(PostgresqlRules.of(18), sql)).isEqualTo(needed);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "select A from s.t | select t(a)",
        "select d from s.t join s.u using (a) | select t(any), select u(d)",
        "select * from s.t join s.u using (a) | select t(a b c), select u(d)",
        "select 1 from s.t where exists (select * from s.u) | select t(any), select u(any)",
        "truncate table s.t | drop t",
        "create table s.fresh as select a from s.t | create s, insert s, select t(a)",
        "create view s.fresh as select a from s.t where b > 1 | 4 rights t(a), create view s, select t(b)",
        "drop table s.t | drop t",
      })
  void onMariadb(String sql, String needed) throws Exception {
    assertThat(needs(MariadbRules.of(10, 11), sql)).isEqualTo(needed);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "select a from s.t | select t(a)",
        "select count(*) from s.t | 6 rights t(any)",
        "merge into s.t using s.u on t.a = u.a when not matched then insert (c) values (5) | insert t(c), select t(a), select u(a), update t",
        "create table s.fresh (z int) | own s",
        "create view s.fresh as select a from s.t | own s, select t(a)",
        "drop table s.t | own t",
      })
  void onHsqldb(String sql, String needed) throws Exception {
    assertThat(needs(HsqldbRules.rules(), sql)).isEqualTo(needed);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "select nope from s.t",
        "select t.nope from s.t",
        "select a from s.nothing",
        "select a from u",
        "select nextval('s.q')",
        "select query_to_xml('select * from s.t', true, true, '')",
        "insert into s.v (g) values (1)",
        "update s.t join s.u on t.a = u.a set b = 1",
        "insert into s.t (a) values (1) on duplicate key update b = 1",
        "with gone as (delete from s.t returning a) select * from gone",
        "grant select on s.t to ines",
        "alter table s.t add z int",
        "create table fresh (z int)",
        "select a from s.t; drop table s.t",
        "not a statement",
        "",
      })
  void whatIsNotKnownIsNotClaimed(String sql) {
    assertThatThrownBy(() -> StatementNeeds.of(access(PostgresqlRules.of(18)), sql))
        .isInstanceOf(NotUnderstood.class);
  }

  @Test
  void whatStandsInACommentIsNoPart() throws Exception {
    assertThat(needs(PostgresqlRules.of(18), "select a from s.t -- where b > 1"))
        .isEqualTo("select t(a)");
  }

  /** The window's frame is not looked into. */
  @ParameterizedTest
  @ValueSource(
      strings = {"select max(d) from s.u", "select max(c) from s.t", "select max(g) from s.v"})
  void aPartThatIsNotLookedIntoIsNoticed(String hidden) {
    String sql =
        "select sum(a) over (order by b rows between ("
            + hidden
            + ") preceding and current row)"
            + " from s.t";
    assertThatThrownBy(() -> needs(PostgresqlRules.of(18), sql))
        .isInstanceOf(NotUnderstood.class)
        .hasMessageContaining("is not known");
  }
}
