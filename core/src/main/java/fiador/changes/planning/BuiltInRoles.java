package fiador.changes.planning;

import fiador.changes.wanted.Problem;
import fiador.changes.wanted.StoredName;
import fiador.changes.wanted.Wanted;
import fiador.estate.Principals;
import fiador.grants.Access;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Memberships in roles that a charter does not make, because a server brings them along. */
final class BuiltInRoles {
  private BuiltInRoles() {}

  /**
   * What of a charter can be held on a server: those of other kinds of server are left out with a
   * note. Cost: the memberships.
   */
  static Wanted known(
      Access access, Wanted wanted, Collection<Problem> problems, Collection<String> notes) {
    Set<String> listed = new HashSet<>();
    wanted.roles().forEach(role -> listed.add(role.name()));
    wanted.users().forEach(user -> listed.add(user.name()));
    List<Wanted.Member> held = new ArrayList<>();
    for (Wanted.Member one : wanted.memberships()) {
      if (listed.contains(one.role()) || isThere(access, one, problems, notes)) {
        held.add(one);
      }
    }
    return wanted.withMemberships(held);
  }

  private static boolean isThere(
      Access access, Wanted.Member one, Collection<Problem> problems, Collection<String> notes) {
    Principals people = access.principals();
    String name = StoredName.of(one.role(), access.rules());
    int id = people.named(name);
    if (id >= 0 && !people.isUser(id)) {
      return true;
    } else if (id < 0 && !access.rules().isOwn(name)) {
      notes.add(access.rules().kind() + " has no role " + one.role() + ": it is left out");
    } else {
      String what = id < 0 ? "there is no role " : "only roles can be held, and there is a user ";
      problems.add(new Problem(one.place(), what + one.role() + " on " + access.about().server()));
    }
    return false;
  }
}
