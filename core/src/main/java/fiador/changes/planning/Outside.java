package fiador.changes.planning;

import fiador.changes.wanted.Governed;
import fiador.estate.Few;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.longs.LongOpenHashSet;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.TreeSet;

/**
 * What a charter does not decide although it concerns what it decides: who reaches governed schemas
 * by something that no line governs, and what there is that none governs at all. Cost: the grants,
 * memberships and principals.
 */
final class Outside {
  private static final int NAMED = 4;

  private final Access access;
  private final Tree tree;
  private final Principals people;
  private final Governed governed;

  Outside(Access access, Governed governed) {
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
    this.governed = governed;
  }

  /** Adds what there is to say, one note a kind. */
  void tell(Collection<String> notes) {
    if (governsNothing()) {
      return;
    }
    Set<String> reaching = new TreeSet<>();
    grants(reaching);
    builtIn(reaching);
    if (!reaching.isEmpty()) {
      notes.add("not governed, and reaching what is: " + Few.of(reaching, NAMED));
    }
    Set<String> ungoverned = new LinkedHashSet<>();
    for (int id = 1; id < people.size(); id++) {
      if (isSomebody(id) && !governed.principal(id)) {
        ungoverned.add(people.kind(id).text() + " " + people.name(id));
      }
    }
    for (int node = 1; node < tree.size(); node++) {
      boolean schema = tree.kind(node) == NodeKind.SCHEMA && !tree.isSystem(node);
      boolean used = tree.children().from(node) < tree.children().to(node);
      if (schema && used && !governed.node(node)) {
        ungoverned.add("schema " + tree.path(node));
      }
    }
    if (!ungoverned.isEmpty()) {
      notes.add("no line of the charter governs " + Few.of(ungoverned, NAMED));
    }
  }

  private boolean governsNothing() {
    for (int node = 1; node < tree.size(); node++) {
      if (tree.kind(node) == NodeKind.SCHEMA && governed.node(node)) {
        return false;
      }
    }
    return true;
  }

  /** Whether it is a user or role that somebody made, and no administrator. */
  private boolean isSomebody(int id) {
    return people.scope(id) < 0
        && !people.has(id, Power.SUPERUSER)
        && !access.rules().isOwn(access.bareName(id))
        && !governed.isUntouchable(id);
  }

  private void grants(Set<String> reaching) {
    Grants grants = access.grants();
    LongOpenHashSet told = new LongOpenHashSet();
    BitSet somebody = new BitSet();
    BitSet decided = new BitSet();
    for (int id = 1; id < people.size(); id++) {
      somebody.set(id, isSomebody(id));
      decided.set(id, governed.principal(id));
    }
    for (int row = 0; row < grants.size(); row++) {
      int node = grants.node(row);
      int to = grants.grantee(row);
      boolean everybody = to == Principals.PUBLIC;
      boolean counts = everybody ? !governed.principal(to) : somebody.get(to) && !decided.get(to);
      boolean whole = node == 0 && grants.terms(row).covers() != 0;
      boolean home = tree.kind(node) == NodeKind.DATABASE && holdsGoverned(node);
      boolean inside = tree.enclosing(node, NodeKind.SCHEMA) >= 0 && governed.node(node);
      boolean mine = !everybody && somebody.get(to) && whole;
      boolean reaches = counts && (whole || home || inside) || mine;
      // things of one schema are said once, however many there are
      if (reaches && told.add((long) to << Integer.SIZE | place(node))) {
        String where = node == 0 ? "everything" : tree.path(place(node));
        reaching.add(
            (everybody ? "everybody" : people.name(to))
                + " ("
                + (node == place(node)
                    ? PrivilegeSet.text(grants.terms(row).privileges())
                    : "grants in it")
                + " on "
                + where
                + ")");
      }
    }
  }

  /** Things of one schema are said once. */
  private int place(int node) {
    int schema = tree.enclosing(node, NodeKind.SCHEMA);
    return schema < 0 ? node : schema;
  }

  private boolean holdsGoverned(int database) {
    return Arrays.stream(tree.children().run(database)).anyMatch(governed::node);
  }

  private void builtIn(Set<String> reaching) {
    var memberships = access.memberships();
    for (int edge = 0; edge < memberships.size(); edge++) {
      int role = memberships.role(edge);
      int member = memberships.member(edge);
      boolean own = access.rules().isOwn(people.name(role)) && people.powers(role) != 0;
      boolean decided = governed.membership(member, role);
      if (own && !decided && isSomebody(member) && !memberships.options(edge).implicit()) {
        reaching.add(people.name(member) + " (member of " + people.name(role) + ")");
      }
    }
  }
}
