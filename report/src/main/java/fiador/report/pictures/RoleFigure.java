package fiador.report.pictures;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Memberships;
import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.OwnRights.Right;
import fiador.report.shown.Shown;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntLinkedOpenHashSet;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.IntPredicate;

/** The roles of an estate, or those around one: who is in them, what they hold, what they open. */
public final class RoleFigure {
  private final Access access;
  private final Memberships memberships;
  private final Shown shown;
  private final Cast cast;
  private final OwnRights rights;
  private final IntPredicate things;

  private RoleFigure(Access access, IntPredicate things) {
    this.things = things;
    this.access = access;
    this.memberships = access.memberships();
    this.shown = Shown.brief(access);
    this.cast = new Cast(access, shown);
    this.rights = new OwnRights(access);
  }

  /** All roles. Cost: all memberships and the grants of the roles. */
  public static Figure all(Access access, Instant now) {
    return within(access, principal -> true, node -> true, now);
  }

  /**
   * Of all roles those of a part of the estate.
   *
   * @param principals which users and roles are shown
   * @param things which things are counted
   */
  public static Figure within(
      Access access, IntPredicate principals, IntPredicate things, Instant now) {
    RoleFigure figure = new RoleFigure(access, things);
    Memberships memberships = figure.memberships;
    for (int edge = 0; edge < memberships.size(); edge++) {
      if (principals.test(memberships.member(edge)) && principals.test(memberships.role(edge))) {
        figure.cast.membership(edge, null);
      }
    }
    for (int role = 1; role < access.principals().size(); role++) {
      if (!access.principals().isUser(role) && principals.test(role)) {
        figure.opens(role);
      }
    }
    return figure.cast.figure("Roles of " + figure.shown.path(0), figure.shown.origin(now));
  }

  /** Those around one: its members at any depth, and what it holds. Cost: what is shown. */
  public static Figure around(Access access, int role, Instant now) {
    RoleFigure figure = new RoleFigure(access, node -> true);
    figure.cast.principal(role);
    for (int member : figure.walk(role, true).toIntArray()) {
      figure.edges(member, true);
    }
    for (int held : figure.walk(role, false).toIntArray()) {
      figure.edges(held, false);
      figure.opens(held);
    }
    figure.cast.asked("p" + role);
    return figure.cast.figure(
        "Around the role " + figure.shown.principal(role), figure.shown.origin(now));
  }

  /** One role and all on one side of it. */
  private IntLinkedOpenHashSet walk(int start, boolean down) {
    IntLinkedOpenHashSet seen = new IntLinkedOpenHashSet(new int[] {start});
    IntArrayList open = IntArrayList.of(start);
    while (!open.isEmpty()) {
      int at = open.popInt();
      for (int edge : (down ? memberships.membersOf() : memberships.rolesOf()).run(at)) {
        int next = down ? memberships.member(edge) : memberships.role(edge);
        if (Cast.counts(memberships.options(edge)) && seen.add(next)) {
          open.add(next);
        }
      }
    }
    return seen;
  }

  private void edges(int principal, boolean down) {
    for (int edge : (down ? memberships.membersOf() : memberships.rolesOf()).run(principal)) {
      cast.membership(edge, null);
    }
  }

  /** Of what is opened: the kind of thing, and whether these are the role's own. */
  private record Sort(NodeKind kind, boolean owns) implements Comparable<Sort> {
    @Override
    public int compareTo(Sort other) {
      int byKind = kind.compareTo(other.kind);
      return byKind == 0 ? Boolean.compare(other.owns, owns) : byKind;
    }
  }

  private static final class Sum {
    private final IntOpenHashSet things = new IntOpenHashSet();
    private long privileges;
  }

  /** What a role opens, put together by schema and kind of thing. */
  private void opens(int role) {
    Tree tree = access.tree();
    Map<Integer, Map<Sort, Sum>> found = new TreeMap<>();
    for (Right right : rights.of(role)) {
      if (!things.test(right.node())) {
        continue;
      }
      NodeKind kind = tree.kind(right.node());
      int home = kind.isObject() ? tree.enclosing(right.node(), NodeKind.SCHEMA) : right.node();
      Sum sum =
          found
              .computeIfAbsent(home < 0 ? 0 : home, fresh -> new TreeMap<>())
              .computeIfAbsent(new Sort(kind, right.owns()), fresh -> new Sum());
      sum.things.add(right.node());
      sum.privileges |= right.privileges() | right.some();
    }
    found.forEach((home, kinds) -> opens(role, home, kinds));
    for (Power power : rights.powers(role)) {
      cast.line(cast.principal(role), cast.thing(0), rights.comes(power), power.text());
    }
  }

  private void opens(int role, int home, Map<Sort, Sum> kinds) {
    Map<String, List<String>> much = new LinkedHashMap<>();
    kinds.forEach(
        (sort, sum) -> {
          List<String> on =
              much.computeIfAbsent(
                  sort.owns() ? "owns" : word(sum.privileges), fresh -> new ArrayList<>());
          if (sort.kind().isObject()) {
            int all = cast.inside(home, sort.kind(), things);
            int here = sum.things.size();
            String kind = sort.kind().text();
            on.add(here == all ? "every " + kind : here + " of " + all + " " + kind + "s");
          }
        });
    List<String> parts = new ArrayList<>();
    much.forEach((word, on) -> parts.add(on.isEmpty() ? word : word + " " + String.join(", ", on)));
    String label = String.join("; ", parts);
    cast.line(cast.principal(role), cast.thing(home), Manner.WORKS, label);
  }

  /** One word for a set of privileges, where there is one that says enough. */
  private static String word(long privileges) {
    if ((privileges & Levels.CHANGES) != 0) {
      return (privileges & Privilege.SELECT.bit()) == 0 ? "change" : "read and change";
    }
    return privileges == Privilege.SELECT.bit() ? "read" : PrivilegeSet.text(privileges);
  }
}
