package fiador.standin.estate;

import fiador.standin.estate.Principal.Sort;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Who and what there is, and what was given and refused. Whoever changes it sees to the lock. */
public final class Warehouse {
  private final Principal everybody = new Principal(Sort.EVERYBODY, "everybody");
  private final Map<String, Principal> principals = new LinkedHashMap<>();
  private final Map<Principal, Map<Principal, Boolean>> rolesOf = new LinkedHashMap<>();
  private final Map<Thing, Map<Right, Boolean>> rights = new LinkedHashMap<>();
  private final Map<Right, Principal> givers = new HashMap<>();
  private final Map<Later, Boolean> later = new LinkedHashMap<>();
  private final Map<String, Thing> labels = new TreeMap<>();
  private final Elsewhere elsewhere = new Elsewhere(everybody);
  private final Thing server;
  private long version;

  /**
   * An empty one.
   *
   * @param administrator the name of its only user
   */
  public Warehouse(String administrator) {
    Principal first = new Principal(Sort.USER, administrator);
    first.powers().add(Judge.ADMINISTRATOR);
    principals.put(administrator, first);
    server = new Thing("server", "server", null, first);
  }

  /** Grows with each change. */
  public long version() {
    return version;
  }

  /** Says that something has changed. */
  public void changed() {
    version++;
  }

  /** Everybody. */
  public Principal everybody() {
    return everybody;
  }

  /** The other servers that are known. */
  public Elsewhere elsewhere() {
    return elsewhere;
  }

  /** All users and roles. */
  public Collection<Principal> principals() {
    return principals.values();
  }

  /** The user or role of that name; null for none. */
  public @Nullable Principal principal(String name) {
    return principals.get(name);
  }

  /**
   * A new one.
   *
   * @throws MistakeException when the name is taken
   */
  public Principal create(Sort sort, String name) throws MistakeException {
    if (principals.containsKey(name)) {
      throw new MistakeException("there is a user or role " + name + " already");
    }
    Principal made = new Principal(sort, name);
    principals.put(name, made);
    return made;
  }

  /**
   * Takes a user or role away, with all it was given.
   *
   * @throws MistakeException when it owns something
   */
  public void drop(Principal gone) throws MistakeException {
    Thing owned = ownedBy(gone, server);
    if (owned != null) {
      throw new MistakeException(gone + " owns " + owned + "; give that to another first");
    }
    principals.remove(gone.name());
    rolesOf.remove(gone);
    elsewhere.forget(gone);
    rolesOf.values().forEach(held -> held.remove(gone));
    rights.values().forEach(rows -> rows.keySet().removeIf(right -> right.to() == gone));
    givers.keySet().removeIf(right -> right.to() == gone);
    later.keySet().removeIf(row -> row.to() == gone);
    for (Principal other : principals.values()) {
      if (other.defaultRole() == gone) {
        other.defaultRole(null);
      }
    }
  }

  private static @Nullable Thing ownedBy(Principal owner, Thing from) {
    Deque<Thing> left = new ArrayDeque<>(List.of(from));
    while (!left.isEmpty()) {
      Thing thing = left.pop();
      if (thing.owner() == owner) {
        return thing;
      }
      left.addAll(thing.inside());
    }
    return null;
  }

  /**
   * Another name.
   *
   * @throws MistakeException when it is taken
   */
  public void rename(Principal principal, String to) throws MistakeException {
    if (principals.containsKey(to)) {
      throw new MistakeException("there is a user or role " + to + " already");
    }
    principals.remove(principal.name());
    principal.rename(to);
    principals.put(to, principal);
  }

  /** The roles somebody was given, and whether they can give each on. */
  public Map<Principal, Boolean> rolesOf(Principal member) {
    return rolesOf.getOrDefault(member, Map.of());
  }

  /** Gives a role; with the option it can be given on, which giving it again does not take. */
  public void giveRole(Principal member, Principal role, boolean option) {
    rolesOf
        .computeIfAbsent(member, who -> new LinkedHashMap<>())
        .merge(role, option, Boolean::logicalOr);
  }

  /** Takes a role, or the option alone. */
  public void takeRole(Principal member, Principal role, boolean optionOnly) {
    Map<Principal, Boolean> held = rolesOf.getOrDefault(member, new LinkedHashMap<>());
    if (optionOnly) {
      held.computeIfPresent(role, (which, option) -> false);
    } else {
      held.remove(role);
    }
  }

  /** All roles that come with these, themselves included. */
  public Set<Principal> closure(Collection<Principal> from) {
    Set<Principal> reached = new LinkedHashSet<>(from);
    Deque<Principal> left = new ArrayDeque<>(from);
    while (!left.isEmpty()) {
      for (Principal role : rolesOf(left.pop()).keySet()) {
        if (reached.add(role)) {
          left.add(role);
        }
      }
    }
    return reached;
  }

  /** The server, which everything is in. */
  public Thing server() {
    return server;
  }

  /** The labels that something carries, or did. */
  public Map<String, Thing> labels() {
    return labels;
  }

  /** Makes a label known. */
  public void label(String name) {
    labels.computeIfAbsent(name, first -> new Thing(Thing.LABEL, name, null, server.owner()));
  }

  /** Everything there is, containers first. */
  public List<Thing> things() {
    List<Thing> found = new ArrayList<>();
    Deque<Thing> left = new ArrayDeque<>(List.of(server));
    while (!left.isEmpty()) {
      Thing thing = left.poll();
      found.add(thing);
      left.addAll(thing.inside());
    }
    return found;
  }

  /**
   * A new thing.
   *
   * @throws MistakeException when there is one of that name
   */
  public Thing create(String kind, String name, Thing in, Principal owner) throws MistakeException {
    if (in.inside(name) != null) {
      throw new MistakeException("there is " + in.inside(name) + " already");
    }
    Thing made = new Thing(kind, name, in, owner);
    in.put(made);
    for (Map.Entry<Later, Boolean> row : later.entrySet()) {
      Later comes = row.getKey();
      if (comes.kind().equals(kind) && made.enclosing(comes.in().kind()) == comes.in()) {
        give(new Right(false, comes.to(), comes.privilege(), made, null), row.getValue(), null);
      }
    }
    return made;
  }

  /**
   * Takes a thing away, and what was given on it.
   *
   * @throws MistakeException when there is something in it, or a view reads it: that would read
   *     whatever somebody else makes of the same name
   */
  public void drop(Thing thing) throws MistakeException {
    if (!thing.inside().isEmpty()) {
      throw new MistakeException("there are things in " + thing + "; drop them first");
    }
    for (Thing view : things()) {
      if (view.reads().contains(thing)) {
        throw new MistakeException(view + " reads " + thing + "; drop that first");
      }
    }
    Thing parent = thing.parent();
    if (parent == null) {
      throw new MistakeException("the server stays");
    }
    parent.remove(thing);
    rights.getOrDefault(thing, Map.of()).keySet().forEach(givers::remove);
    rights.remove(thing);
    later.keySet().removeIf(row -> row.in() == thing);
  }

  /** What was given and refused on a thing, and whether it can be given on. */
  public Map<Right, Boolean> rights(Thing on) {
    return rights.getOrDefault(on, Map.of());
  }

  /**
   * Gives or refuses; with the option it can be given on, which a later row does not take.
   *
   * @param by who did it; the first counts, and null is nobody in particular
   */
  public void give(Right right, boolean option, @Nullable Principal by) {
    if (by != null) {
      givers.putIfAbsent(right, by);
    }
    rights
        .computeIfAbsent(right.on(), on -> new LinkedHashMap<>())
        .merge(right, option, Boolean::logicalOr);
  }

  /** Takes a row away, or its option alone. */
  public void take(Right right, boolean optionOnly) {
    Map<Right, Boolean> rows = rights.get(right.on());
    if (rows == null) {
      return;
    }
    if (optionOnly) {
      rows.computeIfPresent(right, (row, option) -> false);
    } else {
      rows.remove(right);
      givers.remove(right);
    }
  }

  /** Who gave or refused it, as far as they are still there; null for nobody in particular. */
  public @Nullable Principal giver(Right right) {
    Principal by = givers.get(right);
    return by != null && principals.get(by.name()) == by ? by : null;
  }

  /** What new things come with, and whether it can be given on. */
  public Map<Later, Boolean> later() {
    return later;
  }
}
