package fiador.servers.hsqldb;

import static fiador.servers.hsqldb.RandomHsqldb.execute;
import static fiador.servers.hsqldb.RandomHsqldb.q;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** What one user holds, by us and by trying. */
final class HsqldbComparison {
  private final Tree tree;
  private final String user;
  private final Connection session;
  private final Set<String> mismatches;
  private final Set<String> live = new HashSet<>();
  private final Set<String> grantable = new HashSet<>();
  private final RandomHsqldb estate;
  private final Connection nobody;

  HsqldbComparison(
      Access access,
      RandomHsqldb estate,
      String user,
      Connection session,
      Connection nobody,
      Set<String> mismatches) {
    this.estate = estate;
    this.tree = access.tree();
    this.user = user;
    this.session = session;
    this.nobody = nobody;
    this.mismatches = mismatches;
    for (Holding row :
        new Holdings(access, Clock.systemUTC(), false).of(access.principals().named(user))) {
      if (row.state() != State.LIVE) {
        continue;
      }
      String key = row.privilege() + " " + row.node();
      if (row.columns() == null) {
        live.add(key);
        if (row.grantable()) {
          grantable.add(key);
        }
      }
      for (int column = 0; column < tree.columns(row.node()); column++) {
        if (row.columns() == null || row.columns().get(column)) {
          live.add(key + " " + column);
        }
      }
    }
  }

  void compare() throws SQLException {
    List<Integer> objects = new ArrayList<>();
    for (int node = 0; node < tree.size(); node++) {
      if (tree.kind(node).isObject() && !tree.isSystem(node)) {
        objects.add(node);
      }
    }
    for (int node : objects) {
      switch (tree.kind(node)) {
        case TABLE -> table(node);
        case VIEW -> view(node);
        case SEQUENCE ->
            expect(live.contains("USAGE " + node), "CALL NEXT VALUE FOR " + name(node));
        case ROUTINE -> expect(live.contains("EXECUTE " + node), "CALL " + routine(node) + "(1)");
        default -> throw new AssertionError(tree.kind(node));
      }
    }
    // last, because a grant that works is committed
    for (int node : objects) {
      if (tree.kind(node) == NodeKind.TABLE) {
        expectGrantable(node, Privilege.SELECT, "SELECT a FROM " + name(node));
        expectGrantable(node, Privilege.DELETE, "DELETE FROM " + name(node));
      }
    }
  }

  /** A grant without the right to it is not refused, it does nothing; so the grantee has to try. */
  private void expectGrantable(int node, Privilege privilege, String sql) throws SQLException {
    boolean already = worked(nobody, sql);
    nobody.rollback();
    if (already) {
      return; // everybody can
    }
    try {
      execute(session, "GRANT " + privilege + " ON TABLE " + name(node) + " TO \"nobody\"");
    } catch (SQLException refused) {
      // then the grantee cannot do it either
    }
    boolean works = grantable.contains(privilege + " " + node);
    if (worked(nobody, sql) != works) {
      mismatches.add(user + " passing on " + sql + ": worked " + !works + ", we say " + works);
    }
    nobody.rollback();
    execute(
        estate.admin, "REVOKE ALL PRIVILEGES ON TABLE " + name(node) + " FROM \"nobody\" RESTRICT");
  }

  private void table(int node) throws SQLException {
    String name = name(node);
    boolean readsAll = true;
    for (int column = 0; column < tree.columns(node); column++) {
      String c = q(tree.column(node, column));
      boolean reads = live.contains("SELECT " + node + " " + column);
      readsAll &= reads;
      expect(reads, "SELECT " + c + " FROM " + name);
      expect(
          live.contains("INSERT " + node + " " + column),
          "INSERT INTO " + name + " (" + c + ") VALUES (1)");
      expect(
          live.contains("UPDATE " + node + " " + column), "UPDATE " + name + " SET " + c + " = 1");
    }
    expect(readsAll, "SELECT * FROM " + name);
    expect(live.contains("DELETE " + node), "DELETE FROM " + name);
  }

  private void view(int node) throws SQLException {
    for (int column = 0; column < tree.columns(node); column++) {
      String c = q(tree.column(node, column));
      expect(live.contains("SELECT " + node + " " + column), "SELECT " + c + " FROM " + name(node));
    }
  }

  private String name(int node) {
    return q(tree.name(tree.parent(node))) + "." + q(tree.name(node));
  }

  private String routine(int node) {
    String name = tree.name(node);
    return q(tree.name(tree.parent(node))) + "." + q(name.substring(0, name.lastIndexOf('(')));
  }

  private void expect(boolean works, String sql) throws SQLException {
    boolean worked = worked(session, sql);
    session.rollback();
    if (worked != works) {
      mismatches.add(user + ": " + sql + ": worked " + worked + ", we say " + works);
    }
  }

  private static boolean worked(Connection as, String sql) {
    try {
      execute(as, sql);
      return true;
    } catch (SQLException refused) {
      return !isRefusal(refused);
    }
  }

  private static boolean isRefusal(SQLException refused) {
    return refused.getSQLState().startsWith("42") || refused.getSQLState().startsWith("0L");
  }
}
