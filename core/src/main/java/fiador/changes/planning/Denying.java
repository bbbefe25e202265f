package fiador.changes.planning;

import fiador.changes.steps.Step;
import fiador.changes.steps.Turn;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.ToIntFunction;

/**
 * Roles that bring denials along. Giving one closes something, and taking one opens something; so
 * they are given before all else is given and taken after all else is taken, and nobody meanwhile
 * gets at what is denied them both before and after.
 */
final class Denying {
  private final Access access;
  private final Set<String> roles = new HashSet<>();

  /**
   * Those of a server, and those that memberships still to be given make such. Cost: the denials,
   * and the memberships below the roles that have any.
   */
  Denying(Access access, Collection<Step> given) {
    this.access = access;
    Deque<String> left = new ArrayDeque<>();
    for (int row = 0; row < access.denials().size(); row++) {
      left.add(access.principals().name(access.denials().grantee(row)));
    }
    while (!left.isEmpty()) {
      String role = left.pop();
      if (!roles.add(role)) {
        continue;
      }
      int id = access.principals().named(role);
      for (int edge : id < 0 ? new int[0] : access.memberships().membersOf().run(id)) {
        left.add(access.principals().name(access.memberships().member(edge)));
      }
      for (Step step : given) {
        if (role.equals(step.about().role()) && step.about().holder() != null) {
          left.add(step.about().holder());
        }
      }
    }
  }

  /** Whether a step gives or takes such a role. */
  boolean isAbout(Step step) {
    return step.about().role() != null && roles.contains(step.about().role());
  }

  /** Those that give such roles first, and all others as they stand. */
  List<Step> first(Collection<Step> gives) {
    return sorted(
        gives, step -> isAbout(step) && step.about().turn() == Turn.GIVES ? -below(step) : 1);
  }

  /**
   * Those that take such roles last, and all others as they stand: from who is held by few before
   * who is held by many, or what was given further down would be open meanwhile.
   */
  List<Step> last(Collection<Step> takes) {
    return sorted(takes, step -> isAbout(step) ? below(step) : 0);
  }

  private List<Step> sorted(Collection<Step> steps, ToIntFunction<Step> by) {
    List<Step> ordered = new ArrayList<>(steps);
    if (!roles.isEmpty()) {
      ordered.sort(Comparator.comparingInt(by));
    }
    return ordered;
  }

  /** How many hold the one who is given or loses a role, that one included. */
  private int below(Step step) {
    int member = access.principals().named(String.valueOf(step.about().holder()));
    if (member < 0) {
      return 1;
    }
    IntArrayList reached = IntArrayList.of(member);
    IntOpenHashSet seen = new IntOpenHashSet(reached);
    for (int i = 0; i < reached.size(); i++) {
      for (int edge : access.memberships().membersOf().run(reached.getInt(i))) {
        int next = access.memberships().member(edge);
        if (seen.add(next)) {
          reached.add(next);
        }
      }
    }
    return reached.size();
  }
}
