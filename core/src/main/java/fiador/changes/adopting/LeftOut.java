package fiador.changes.adopting;

import fiador.changes.steps.SetPower;
import fiador.changes.wanted.Governed;
import fiador.estate.Few;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.Memberships;
import fiador.grants.Seen;
import fiador.grants.rules.HouseFact;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * What a drafted charter leaves out, because no sentence of one is about it: nothing of that is
 * governed, and none of it was lost sight of. Cost: the principals, and what they hold directly.
 */
final class LeftOut {
  private static final int NAMED = 4;
  private final Access access;
  private final Tree tree;
  private final Principals people;
  private final Governed governed;
  private final List<String> said = new ArrayList<>();

  private LeftOut(Access access, Governed governed) {
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
    this.governed = governed;
  }

  /** One sentence each, by principals. */
  static List<String> of(Access access, Governed governed) {
    LeftOut left = new LeftOut(access, governed);
    for (int id = 1; id < access.principals().size(); id++) {
      if (governed.principal(id)) {
        left.of(id);
      }
    }
    return List.copyOf(left.said);
  }

  private void of(int id) {
    String name = people.name(id);
    Instant until = people.account(id).until();
    if (until != null && !people.isUser(id)) {
      said.add(name + " cannot log in and ends at " + until + ", which a charter says of users");
    }
    for (Power power : Power.values()) {
      boolean settable =
          access.rules().has(HouseFact.SETS_POWERS) && SetPower.SETTABLE.contains(power);
      if (people.has(id, power) && !settable) {
        said.add(name + " has the power " + power.text());
      }
    }
    memberships(id, name);
    grants(id, name);
    int denied = access.denials().byGrantee().run(id).length;
    if (denied > 0) {
      said.add(
          name
              + " is denied "
              + (denied == 1 ? "something" : denied + " things")
              + ": denials stay as they are, and beat what the charter gives");
    }
    int owned = tree.owned().to(id) - tree.owned().from(id);
    if (owned > 0) {
      String first = tree.path(tree.owned().row(tree.owned().from(id)));
      said.add(
          name
              + " owns "
              + (owned == 1 ? first : owned + " things, such as " + first)
              + ": say so with \"owns\" where that is to be kept");
    }
    for (Seen.Beside beside : access.seen().of(id)) {
      said.add(name + " " + beside.text());
    }
  }

  private void memberships(int id, String name) {
    Memberships all = access.memberships();
    for (int edge : all.rolesOf().run(id)) {
      int role = all.role(edge);
      boolean builtIn = Adoption.isBuiltIn(access, role);
      boolean isSaid = governed.principal(role) || builtIn;
      if (!all.options(edge).implicit() && !isSaid) {
        said.add(name + " holds " + people.name(role) + ", which no charter governs");
      }
    }
  }

  private void grants(int id, String name) {
    Set<String> labels = new TreeSet<>();
    Grants grants = access.grants();
    for (int row : grants.byGrantee().run(id)) {
      int node = grants.node(row);
      long bits = grants.terms(row).privileges();
      boolean outside = tree.enclosing(node, NodeKind.SCHEMA) < 0 || tree.isSystem(node);
      String label = access.labelOf(grants.terms(row));
      if (!label.isEmpty()) {
        labels.add(label);
      } else if (outside && bits != 0) {
        String where =
            node == 0 ? "the whole server" : tree.kind(node).text() + " " + tree.path(node);
        said.add(name + " may " + PrivilegeSet.text(bits) + " on " + where);
      }
    }
    if (!labels.isEmpty()) {
      said.add(name + " was given something by label: " + Few.of(labels, NAMED));
    }
  }
}
