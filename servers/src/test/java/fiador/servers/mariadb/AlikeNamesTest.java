package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holdings;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.servers.Servers;
import fiador.servers.jdbc.Login;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Names that are one to the catalog's collation, and two to the server. */
class AlikeNamesTest {
  private static final String[] SETUP = {
    "create or replace database alike",
    "create or replace database Alike",
    "create or replace database `älike`",
    "create table alike.t (a int, b int)",
    "create table alike.T (x int)",
    "create table Alike.t (c int, d int, e int)",
    "create table `älike`.t (f int)",
    "create view alike.v as select a from alike.t",
    "create view Alike.v as select c from Alike.t",
    "create view alike.V as select x from alike.T",
    "create or replace user reader",
    "grant select (a) on alike.t to reader",
    "grant select on Alike.t to reader",
    "grant select on alike.V to reader",
    "create database if not exists FIADOR_GUARD",
    "create or replace table FIADOR_GUARD.attributes (user_name int)"
  };

  private static List<String> columns(Access access, String path) {
    Tree tree = access.tree();
    int node = new Lookup(access).node(path, 0, false).id();
    assertThat(node).as(path).isPositive();
    return IntStream.range(0, tree.columns(node)).mapToObj(i -> tree.column(node, i)).toList();
  }

  @Test
  void eachHasItsOwnColumnsAndGrants() throws Exception {
    Login login = RealMariadb.login();
    var server = Servers.named("mariadb").orElseThrow();
    List<String> notes = new ArrayList<>();
    try (Connection connection = server.connect(login, null);
        Statement statement = connection.createStatement()) {
      for (String sql : SETUP) {
        statement.execute(sql);
      }
      Access access = server.survey(login, "it", List.of(), Instant.now(), notes::add);
      assertThat(columns(access, "alike.t")).containsExactly("a", "b");
      assertThat(columns(access, "alike.T")).containsExactly("x");
      assertThat(columns(access, "Alike.t")).containsExactly("c", "d", "e");
      assertThat(columns(access, "`älike`.t".replace("`", "\""))).containsExactly("f");
      assertThat(columns(access, "alike.v")).containsExactly("a");
      assertThat(columns(access, "Alike.v")).containsExactly("c");
      assertThat(columns(access, "alike.V")).containsExactly("x");
      // somebody else's schema is none of ours, whatever it is called
      assertThat(access.sights().guards()).isEmpty();
      assertThat(access.sights().doubts()).isEmpty();
      List<String> held = new ArrayList<>();
      new Holdings(access, Clock.systemUTC(), false)
          .of(new Lookup(access).principal("reader").id())
          .forEach(
              row ->
                  held.add(
                      row.privilege().text()
                          + " "
                          + access.tree().path(row.node())
                          + " "
                          + row.columns()));
      assertThat(held)
          .containsExactlyInAnyOrder(
              "select alike.t {0}", "select Alike.t null", "select alike.V null");
      for (String name : List.of("alike", "Alike", "`älike`", "FIADOR_GUARD")) {
        statement.execute("drop database " + name);
      }
      statement.execute("drop user reader");
    }
  }
}
