package fiador.files.charter;

import fiador.changes.wanted.Period;
import fiador.changes.wanted.Wanted;
import fiador.estate.Nearest;
import fiador.files.charter.CharterLinker.Phrase;
import fiador.files.charter.Draft.RoleEntry;
import fiador.files.charter.Draft.UserEntry;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;

/** Checks a charter against its own conventions and duty conflicts. */
final class CharterChecks {
  private static final Pattern VARIABLE = Pattern.compile("\\{[a-z]\\w*}");

  private final Draft draft;
  private final Mistakes mistakes;

  CharterChecks(Draft draft, Mistakes mistakes) {
    this.draft = draft;
    this.mistakes = mistakes;
  }

  void check() {
    for (Scalar listed : draft.governedRoles) {
      checkGoverns(listed, draft.roles.keySet(), "role");
    }
    for (Scalar listed : draft.governedUsers) {
      checkGoverns(listed, draft.users.keySet(), "user");
    }
    checkUmbrella();
    checkNames();
    checkDuties();
  }

  /** A name that governs nothing of the charter is most likely misspelt, and drops what it hits. */
  private void checkGoverns(Scalar listed, Set<String> known, String what) {
    boolean similar =
        !Nearest.to(listed.text(), known.stream(), 1).isEmpty() && !known.contains(listed.text());
    if (!listed.text().contains("*") && similar) {
      mistakes.add(
          listed.place(),
          "the charter lists no "
              + what
              + " "
              + listed.text()
              + Nearest.hint(listed.text(), known.stream()));
    }
  }

  private Set<String> held(List<Scalar> direct) {
    return held(direct, when -> true);
  }

  /** The roles held through memberships at some times. */
  private Set<String> held(List<Scalar> direct, Predicate<Period> counts) {
    Set<String> found = new LinkedHashSet<>();
    Deque<Scalar> open = new ArrayDeque<>(direct);
    while (!open.isEmpty()) {
      Phrase phrase = Phrase.of(open.pop().text(), draft.roles.keySet());
      boolean held = phrase != null && counts.test(phrase.when());
      if (held && found.add(phrase.role())) {
        open.addAll(draft.roles.get(phrase.role()).includes());
      }
    }
    return found;
  }

  /** Whether a role opens something sealed: administrators are not to hold it by the way. */
  private boolean isSealed(RoleEntry role) {
    for (SightSections.SealEntry seal : draft.seals.values()) {
      for (Scalar thing : seal.on()) {
        String name = SightLinker.withoutKind(thing.text());
        for (String held : held(List.of(role.name()))) {
          for (Sentence sentence : draft.roles.get(held).may()) {
            for (Wanted.Target target : sentence.targets()) {
              String on =
                  target instanceof Wanted.Every every
                      ? every.container()
                      : ((Wanted.Single) target).name();
              if (on.equals(name) || on.startsWith(name + ".")) {
                return true;
              }
            }
          }
        }
      }
    }
    return false;
  }

  private void checkUmbrella() {
    if (draft.umbrella == null) {
      return;
    }
    RoleEntry umbrella = draft.roles.get(draft.umbrella.text());
    if (umbrella == null) {
      mistakes.add(
          draft.umbrella.place(),
          "there is no role \""
              + draft.umbrella.text()
              + "\" in the charter"
              + Nearest.hint(draft.umbrella.text(), draft.roles.keySet().stream()));
      return;
    }
    Set<String> under = held(umbrella.includes());
    for (RoleEntry role : draft.roles.values()) {
      if (!role.equals(umbrella) && !under.contains(role.name().text()) && !isSealed(role)) {
        mistakes.add(
            role.name().place(),
            "role "
                + role.name().text()
                + " is not under the umbrella "
                + umbrella.name().text()
                + ": add it to its \"includes\"");
      }
    }
  }

  private void checkNames() {
    draft.namePatterns.forEach(
        (what, pattern) -> {
          Pattern names;
          try {
            names = Pattern.compile(VARIABLE.matcher(pattern.text()).replaceAll("[^.]+"));
          } catch (PatternSyntaxException malformed) {
            mistakes.add(pattern.place(), "not a pattern: " + malformed.getDescription());
            return;
          }
          List<Scalar> checked =
              what.equals("user")
                  ? draft.users.values().stream().map(UserEntry::name).toList()
                  : draft.roles.values().stream()
                      .filter(role -> what.equals(role.purpose() + "_role"))
                      .map(RoleEntry::name)
                      .toList();
          for (Scalar name : checked) {
            if (!names.matcher(name.text()).matches()) {
              mistakes.add(
                  name.place(),
                  name.text()
                      + " is not named like "
                      + pattern.text()
                      + ", as conventions ask for");
            }
          }
        });
  }

  /** Administrators hold everything by design; that is no conflict of duties. */
  private List<Scalar> notUmbrella(List<Scalar> roles) {
    return roles.stream()
        .filter(role -> draft.umbrella == null || !role.text().startsWith(draft.umbrella.text()))
        .toList();
  }

  /** Those of the roles that are held at one and the same time. */
  private List<String> together(List<String> roles, List<Scalar> direct) {
    // whatever is held together at all is so when the last of it begins
    Set<Instant> beginnings = new LinkedHashSet<>(Set.of(Instant.MIN));
    held(
        direct,
        when -> {
          if (when.from() != null) {
            beginnings.add(when.from());
          }
          return true;
        });
    List<String> most = List.of();
    for (Instant moment : beginnings) {
      Set<String> held = held(direct, when -> when.holds(moment));
      List<String> now = roles.stream().filter(held::contains).toList();
      most = now.size() > most.size() ? now : most;
    }
    return most;
  }

  private void checkDuties() {
    for (Map.Entry<Scalar, List<Scalar>> conflict : draft.dutyConflicts.entrySet()) {
      for (Scalar role : conflict.getValue()) {
        if (!draft.roles.containsKey(role.text())) {
          mistakes.add(
              role.place(),
              "there is no role \""
                  + role.text()
                  + "\" in the charter"
                  + Nearest.hint(role.text(), draft.roles.keySet().stream()));
        }
      }
      List<String> names = conflict.getValue().stream().map(Scalar::text).toList();
      for (UserEntry user : draft.users.values()) {
        List<String> both = together(names, notUmbrella(user.roles()));
        if (both.size() > 1) {
          mistakes.add(
              user.name().place(),
              user.name().text()
                  + " holds "
                  + String.join(" and ", both)
                  + ", which the duty conflict "
                  + conflict.getKey().text()
                  + " keeps apart");
        }
      }
    }
  }
}
