package fiador.changes.planning;

import fiador.changes.steps.DefineLookup;
import fiador.changes.steps.Guard;
import fiador.changes.steps.LookupTable;
import fiador.changes.steps.Places;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.SightSteps;
import fiador.changes.steps.Step;
import fiador.changes.wanted.CharterSubjects;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Sights;
import fiador.grants.rules.HouseFact;
import fiador.policies.SafeColumn;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

/**
 * What is to be done about the guarded schema of a database, in which policies and what they need
 * to know of users are kept.
 */
final class GuardPlanner {
  private final Access access;
  private final Tree tree;
  private final Lookup lookup;
  private final Wanted wanted;
  private final boolean mayDrop;
  private final UnaryOperator<String> stored;

  /** A part of a plan. */
  static final class Part {
    final List<Step> first = new ArrayList<>();
    final List<Step> last = new ArrayList<>();
    final List<Problem> problems = new ArrayList<>();
    final Set<String> notes = new LinkedHashSet<>();
  }

  /** Parameters as for {@link SightPlanner}. */
  GuardPlanner(Access access, Wanted wanted, boolean mayDrop, UnaryOperator<String> stored) {
    this.access = access;
    this.tree = access.tree();
    this.lookup = new Lookup(access);
    this.wanted = wanted;
    this.mayDrop = mayDrop;
    this.stored = stored;
  }

  /** The guarded schema with what policies need to know. */
  Part guarded(int database) {
    Part part = new Part();
    String name = database == 0 ? null : tree.name(database);
    if (access.rules().has(HouseFact.ACCOUNTS_BY_HOST)) {
      anonymous(part);
    }
    if (access.rules().has(HouseFact.VEILS_TABLES)) {
      // the server itself keeps what policies need
      attributes(part, database, name);
      wanted.sight().lookups().forEach(one -> part.problems.add(notLookedUp(one)));
      return part;
    }
    if (!access.sights().guards().containsKey(database)) {
      part.first.add(new Guard(name, true));
    }
    attributes(part, database, name);
    lookups(part, database, name);
    Set<String> named = new LinkedHashSet<>();
    wanted.sight().lookups().forEach(one -> named.add(one.name()));
    forgetLookups(part, database, name, named);
    return part;
  }

  private Problem notLookedUp(WantedSight.Lookup lookup) {
    return new Problem(
        lookup.place(),
        "policies on a server of kind "
            + access.rules().kind()
            + " look up no table: say what "
            + lookup.name()
            + " holds as an attribute of the users");
  }

  /** What policies need to know of users. */
  private void attributes(Part part, int database, String name) {
    Map<String, Map<String, List<String>>> after = new LinkedHashMap<>();
    for (Wanted.Principal user : wanted.users()) {
      String key = new CharterSubjects(wanted, stored).key(user.name());
      Map<String, List<String>> values =
          new TreeMap<>(wanted.sight().attributes().getOrDefault(user.name(), Map.of()));
      String written = CharterSubjects.unquoted(user.name());
      if (!key.equals(written)) {
        values.put("name", List.of(written));
      }
      after.put(key, values);
    }
    Map<String, Map<String, List<String>>> before = new LinkedHashMap<>();
    for (Sights.Attribute attribute : access.sights().attributes()) {
      if (attribute.database() == database) {
        before
            .computeIfAbsent(attribute.user(), none -> new TreeMap<>())
            .put(attribute.name(), attribute.values());
      }
    }
    before.keySet().forEach(user -> after.putIfAbsent(user, Map.of()));
    after.forEach(
        (user, values) -> {
          Map<String, List<String>> old = before.getOrDefault(user, Map.of());
          Set<String> names = new LinkedHashSet<>(values.keySet());
          names.addAll(old.keySet());
          for (String attribute : names) {
            List<String> was = old.getOrDefault(attribute, List.of());
            List<String> is = values.getOrDefault(attribute, List.of());
            tooExact(part, user, attribute, is);
            if (!Set.copyOf(was).equals(Set.copyOf(is))) {
              part.first.add(new SetAttribute(name, user, attribute, was, is));
            }
          }
        });
  }

  private void tooExact(Part part, String user, String attribute, List<String> values) {
    values.stream()
        .filter(access.rules().numbers()::isBeyond)
        .map(
            value ->
                "the attribute "
                    + attribute
                    + " of "
                    + user
                    + " has more digits than "
                    + access.rules().kind()
                    + " compares exactly: "
                    + value)
        .forEach(problem -> part.problems.add(new Problem(null, problem)));
  }

  private void forgetLookups(Part part, int database, String name, Set<String> but) {
    for (Sights.LookupTable known : access.sights().lookups()) {
      if (known.database() == database && !but.contains(known.name())) {
        part.last.add(new DefineLookup(name, SightSteps.lookupTable(tree, known), null));
      }
    }
  }

  /**
   * Takes a guarded schema away that nothing needs any more, piece by piece so that it can come.
   */
  Part unguarded(int database) {
    Part part = new Part();
    String name = database == 0 ? null : tree.name(database);
    if (!mayDrop) {
      part.notes.add(
          "the schema fiador_guard"
              + (name == null ? "" : " of database " + name)
              + " is needed by no policy any more; --drop takes it away");
      return part;
    }
    for (Sights.Attribute attribute : access.sights().attributes()) {
      if (attribute.database() == database) {
        part.last.add(
            new SetAttribute(
                name, attribute.user(), attribute.name(), attribute.values(), List.of()));
      }
    }
    forgetLookups(part, database, name, Set.of());
    part.last.add(new Guard(name, false));
    return part;
  }

  /** Whoever comes in anonymously names themselves, and would have the attributes of that name. */
  private void anonymous(Part part) {
    for (int id = 0; id < access.principals().size(); id++) {
      boolean nameless =
          access.principals().isUser(id) && access.principals().name(id).startsWith("@");
      if (nameless && !access.principals().account(id).disabled()) {
        part.problems.add(
            new Problem(
                null,
                "the anonymous account "
                    + access.principals().name(id)
                    + " lets anybody come in under any name, so no policy could rely on names: drop"
                    + " it first"));
      }
    }
  }

  /** Whether what others may put there cannot act with our rights. */
  private boolean isReadSafely(int node) {
    return tree.kind(node) == NodeKind.TABLE
        || !access.rules().has(HouseFact.OWNER_STANDS_FOR_ASKER);
  }

  private void lookups(Part part, int database, String name) {
    for (WantedSight.Lookup one : wanted.sight().lookups()) {
      Lookup.Found key = lookup.node(one.table() + "." + one.key(), 0, true);
      Lookup.Found value = lookup.node(one.table() + "." + one.value(), 0, true);
      for (Lookup.Found found : List.of(key, value)) {
        if (!found.ok() || found.column() < 0) {
          String why = found.ok() ? one.table() + " has no such column" : found.problem();
          part.problems.add(new Problem(one.place(), why));
        }
      }
      if (key.ok() && !isReadSafely(key.id())) {
        part.problems.add(
            new Problem(
                one.place(),
                one.table()
                    + " is a view, and on "
                    + access.rules().kind()
                    + " whoever may change it would have it run with the rights of who settles: look"
                    + " up a table"));
        continue;
      }
      if (!key.ok() || !value.ok() || SightPlanner.database(tree, key.id()) != database) {
        continue;
      }
      LookupTable after =
          new LookupTable(
              one.name(),
              Places.on(tree, key.id()),
              SafeColumn.all(tree, key.id()).get(key.column()),
              one.keys(),
              SafeColumn.all(tree, value.id()).get(value.column()));
      LookupTable before = null;
      boolean asMade = true;
      for (Sights.LookupTable known : access.sights().lookups()) {
        if (known.database() == database && known.name().equals(one.name())) {
          before = SightSteps.lookupTable(tree, known);
          asMade = known.asMade();
        }
      }
      if (!Objects.equals(before, after) || !asMade) {
        part.first.add(new DefineLookup(name, before, after));
      }
    }
  }
}
