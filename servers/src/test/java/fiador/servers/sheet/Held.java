package fiador.servers.sheet;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.Tree;
import fiador.grants.Access;
import java.time.Clock;
import java.util.HashSet;
import java.util.Set;

/** What one user holds, by us: at login, and after switching to whatever role they can. */
final class Held {
  private final Set<String> live = new HashSet<>();
  private final Set<String> ever = new HashSet<>();

  Held(Access access, String user) {
    Tree tree = access.tree();
    Holdings holdings = new Holdings(access, Clock.systemUTC(), false);
    for (Holding row : holdings.of(access.principals().named(user))) {
      if (row.state() != State.LIVE && row.state() != State.ON_REQUEST) {
        continue;
      }
      String key = row.privilege() + " " + row.node();
      if (row.columns() == null) {
        add(key, row.state());
        if (row.grantable()) {
          add("GRANT " + key, row.state());
        }
      }
      for (int column = 0; column < tree.columns(row.node()); column++) {
        if (row.columns() == null || row.columns().get(column)) {
          add(key + " " + column, row.state());
        }
      }
    }
  }

  private void add(String key, State state) {
    ever.add(key);
    if (state == State.LIVE) {
      live.add(key);
    }
  }

  boolean live(String what) {
    return live.contains(what);
  }

  boolean ever(String what) {
    return ever.contains(what);
  }
}
