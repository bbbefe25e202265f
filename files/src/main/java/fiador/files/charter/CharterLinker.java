package fiador.files.charter;

import fiador.changes.Wanted;
import fiador.estate.Nearest;
import fiador.files.charter.Draft.RoleEntry;
import fiador.files.charter.Draft.UserEntry;
import fiador.files.charter.Yaml.Scalar;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Checks that all names of a draft lead somewhere, and makes the charter. */
final class CharterLinker {
  private final Draft draft;
  private final Mistakes mistakes;

  CharterLinker(Draft draft, Mistakes mistakes) {
    this.draft = draft;
    this.mistakes = mistakes;
  }

  Charter link() {
    List<Wanted.Principal> roles = new ArrayList<>();
    List<Wanted.Principal> users = new ArrayList<>();
    List<Wanted.Member> memberships = new ArrayList<>();
    List<Wanted.Grant> grants = new ArrayList<>();
    for (RoleEntry role : draft.roles.values()) {
      roles.add(new Wanted.Principal(role.name().text(), role.name().place()));
      link(role.name(), role.includes(), memberships);
      for (Sentence sentence : role.may()) {
        sentence
            .targets()
            .forEach(
                target ->
                    grants.add(
                        new Wanted.Grant(
                            role.name().text(),
                            sentence.actions(),
                            target,
                            sentence.now(),
                            sentence.later() && target instanceof Wanted.Every,
                            sentence.grantOption(),
                            sentence.place())));
      }
    }
    for (UserEntry user : draft.users.values()) {
      users.add(new Wanted.Principal(user.name().text(), user.name().place()));
      link(user.name(), user.roles(), memberships);
      checkNotARole(user.name());
    }
    checkSameFolded();
    findCircles();
    if (draft.heads.isEmpty()) {
      mistakes.add(
          new Wanted.Place(CharterReader.ROOT, 1, 1),
          "\"fiador: 1\" is missing, the charter's version");
    }
    return new Charter(
        draft.estate == null ? "" : draft.estate.text(),
        java.util.Collections.unmodifiableMap(draft.servers),
        new Wanted(roles, users, memberships, grants));
  }

  private void link(Scalar member, List<Scalar> names, List<Wanted.Member> memberships) {
    Set<String> seen = new HashSet<>();
    for (Scalar name : names) {
      if (!draft.roles.containsKey(name.text())) {
        mistakes.add(
            name.place(),
            "there is no role \""
                + name.text()
                + "\" in the charter"
                + Nearest.hint(name.text(), draft.roles.keySet().stream()));
      } else if (!seen.add(name.text())) {
        mistakes.add(name.place(), "role " + name.text() + " stands in the list twice");
      } else {
        memberships.add(new Wanted.Member(member.text(), name.text(), name.place()));
      }
    }
  }

  private void checkNotARole(Scalar user) {
    RoleEntry role = draft.roles.get(user.text());
    if (role != null) {
      mistakes.add(
          user.place(), user.text() + " is a user here and a role at " + role.name().place());
    }
  }

  /** Names that a server would fold into one. */
  private void checkSameFolded() {
    Map<String, Scalar> folded = new HashMap<>();
    List<Scalar> names = new ArrayList<>();
    draft.roles.values().forEach(role -> names.add(role.name()));
    draft.users.values().forEach(user -> names.add(user.name()));
    for (Scalar name : names) {
      Scalar before = folded.putIfAbsent(name.text().toLowerCase(Locale.ROOT), name);
      if (before != null && !before.text().equals(name.text())) {
        mistakes.add(
            name.place(),
            name.text()
                + " and "
                + before.text()
                + " ("
                + before.place()
                + ") differ only in upper and lower case");
      }
    }
  }

  /**
   * Roles that include each other in a circle, which servers refuse. Iterative depth-first search.
   */
  private void findCircles() {
    Set<String> finished = new HashSet<>();
    for (String start : draft.roles.keySet()) {
      List<String> path = new ArrayList<>(List.of(start));
      List<Integer> next = new ArrayList<>(List.of(0));
      while (!path.isEmpty() && !finished.contains(path.get(0))) {
        int top = path.size() - 1;
        RoleEntry role = draft.roles.get(path.get(top));
        int at = next.get(top);
        if (role == null || at >= role.includes().size() || finished.contains(path.get(top))) {
          finished.add(path.remove(top));
          next.remove(top);
          continue;
        }
        next.set(top, at + 1);
        Scalar included = role.includes().get(at);
        int circle = path.indexOf(included.text());
        if (circle >= 0) {
          List<String> members = new ArrayList<>(path.subList(circle, path.size()));
          members.add(included.text());
          mistakes.add(
              included.place(), "roles include each other: " + String.join(" > ", members));
        } else {
          path.add(included.text());
          next.add(0);
        }
      }
    }
  }
}
