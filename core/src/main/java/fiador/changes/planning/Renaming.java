package fiador.changes.planning;

import fiador.changes.steps.Rename;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.StoredName;
import fiador.changes.wanted.Wanted;
import fiador.estate.Few;
import fiador.estate.Principals;
import fiador.estate.Secret;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Users and roles that a charter calls otherwise than before: on servers that can, they get their
 * new name first, and everything else is compared with that. Cost: the renamed.
 */
final class Renaming {
  private static final int NAMED = 4;

  private final Access access;
  private final Set<String> untouchable;
  private final List<Step> steps = new ArrayList<>();
  private final List<Problem> problems;
  private final Collection<String> notes;

  Renaming(
      Access access, Set<String> untouchable, List<Problem> problems, Collection<String> notes) {
    this.access = access;
    this.untouchable = untouchable;
    this.problems = problems;
    this.notes = notes;
  }

  /** The steps; a name that is not there any more was changed already. */
  List<Step> steps(Wanted wanted) {
    for (Wanted.Principal role : wanted.roles()) {
      if (role.was() != null) {
        String from = StoredName.of(role.was(), access.rules());
        rename(role, from, StoredName.of(role.name(), access.rules()), false);
      }
    }
    for (Wanted.Principal user : wanted.users()) {
      if (user.was() != null && isWhole(user)) {
        accounts(user).forEach((from, to) -> rename(user, from, to, true));
      }
    }
    return steps;
  }

  /**
   * Whether the charter lists all accounts of a name: they share roles and grants as long as they
   * share it, so that one does not go without the others.
   */
  private boolean isWhole(Wanted.Principal user) {
    if (!access.rules().has(HouseFact.ACCOUNTS_BY_HOST)) {
      return true;
    }
    Set<String> listed = accounts(user).keySet();
    Set<String> left = new LinkedHashSet<>();
    for (int id = 1; id < access.principals().size(); id++) {
      boolean same = access.bareName(id).equals(StoredName.of(user.was(), access.rules()));
      if (same
          && access.principals().isUser(id)
          && !listed.contains(access.principals().name(id))) {
        left.add(access.principals().name(id));
      }
    }
    if (!left.isEmpty()) {
      problems.add(
          new Problem(
              user.place(),
              user.was()
                  + " also is "
                  + Few.of(left, NAMED)
                  + ": list those hosts too, or rename it by hand"));
    }
    return left.isEmpty();
  }

  /** The old name of each account of a user, and its new one. */
  private Map<String, String> accounts(Wanted.Principal user) {
    List<String> old = StoredName.accounts(user.before(), access.rules());
    List<String> now = StoredName.accounts(user, access.rules());
    Map<String, String> found = new LinkedHashMap<>();
    for (int i = 0; i < old.size(); i++) {
      found.put(old.get(i), now.get(i));
    }
    return found;
  }

  private void rename(Wanted.Principal wanted, String from, String to, boolean user) {
    Principals people = access.principals();
    int id = people.named(from);
    if (id < 0) {
      return;
    }
    boolean can = access.rules().has(user ? HouseFact.RENAMES_USERS : HouseFact.RENAMES_ROLES);
    String what = user ? "users" : "roles";
    if (people.named(to) >= 0) {
      notes.add(
          "there are both " + to + " and " + from + ", which it was called: nothing is renamed");
    } else if (!can) {
      notes.add(
          access.rules().kind()
              + " renames no "
              + what
              + ": "
              + wanted.name()
              + " is made anew, and --drop drops "
              + wanted.was()
              + " where the charter governs it");
    } else if (untouchable.contains(from) || untouchable.contains(access.bareName(id))) {
      problems.add(
          new Problem(
              wanted.place(),
              wanted.was() + " is a login of the charter itself: rename it by hand"));
    } else if (access.rules().has(HouseFact.MAKERS_BY_NAME) && owns(id)) {
      problems.add(
          new Problem(
              wanted.place(),
              made(id) + " would go on running as " + from + ", and fail: rename it by hand"));
    } else {
      if (user && people.account(id).secret() == Secret.OUTDATED) {
        notes.add(
            "the secret of "
                + wanted.was()
                + " is kept in an outdated way, of which the name is a part: it is lost; set a new one");
      }
      steps.add(new Rename(from, to, user));
    }
  }

  private boolean owns(int id) {
    return access.tree().owned().from(id) < access.tree().owned().to(id);
  }

  private String made(int id) {
    Set<String> things = new LinkedHashSet<>();
    for (int node : access.tree().owned().run(id)) {
      things.add(access.tree().path(node));
    }
    return Few.of(things, NAMED);
  }
}
