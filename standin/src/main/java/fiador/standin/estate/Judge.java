package fiador.standin.estate;

import fiador.standin.house.Gate;
import fiador.standin.house.House;
import fiador.standin.house.House.Fact;
import fiador.standin.house.House.Owners;
import fiador.standin.house.House.Roles;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Who may do what. Each question is answered from the rows alone, one at a time, as a server does
 * that looks at one statement.
 */
public final class Judge {
  /** The power of who may do everything. */
  public static final String ADMINISTRATOR = "superuser";

  /** The power of who keeps accounts and roles, and no data. */
  public static final String KEEPER = "manage roles";

  private final House house;
  private final Warehouse warehouse;
  private final Seals seals;

  /** In that house. */
  public Judge(House house, Warehouse warehouse) {
    this.house = house;
    this.warehouse = warehouse;
    this.seals =
        new Seals(
            house,
            warehouse,
            (session, privilege, container) -> holds(session, privilege, container, null));
  }

  /** What no power opens. */
  public Seals seals() {
    return seals;
  }

  // sessions

  /** Somebody who has just logged in; also whose rights a view reads with. */
  public Session login(Principal user) {
    Set<Principal> on = always(user);
    if (house.roles() == Roles.ALL_ON || !user.isUser()) {
      on.addAll(warehouse.closure(List.of(user)));
    } else if (user.defaultRole() != null) {
      on.addAll(warehouse.closure(List.of(user.defaultRole())));
    }
    return new Session(user, user, on, on, null);
  }

  private Set<Principal> always(Principal user) {
    Set<Principal> on = new LinkedHashSet<>();
    on.add(user);
    boolean holds = house.has(Fact.EVERYBODY_HOLDS_ROLES);
    Principal everybody = warehouse.everybody();
    on.addAll(holds ? warehouse.closure(List.of(everybody)) : List.of(everybody));
    return on;
  }

  /**
   * The same with other roles on.
   *
   * @param roles none for none
   * @throws RefusedException when one is not held, or too many are asked for
   * @throws MistakeException when roles are not switched here
   */
  public Session with(Session session, List<Principal> roles)
      throws RefusedException, MistakeException {
    if (house.roles() == Roles.ALL_ON) {
      throw new MistakeException("all roles are on here, always");
    }
    if (roles.size() > 1 && house.roles() == Roles.ONE_AT_A_TIME) {
      throw new MistakeException("one role at a time can be on here");
    }
    // what comes along with a role is not switched on by itself
    Set<Principal> held = new LinkedHashSet<>(warehouse.rolesOf(session.user()).keySet());
    if (house.has(Fact.EVERYBODY_SWITCHES)) {
      held.addAll(warehouse.rolesOf(warehouse.everybody()).keySet());
    }
    for (Principal role : roles) {
      if (role.isUser() || !held.contains(role)) {
        throw new RefusedException(session.user() + " does not hold the role " + role);
      }
    }
    Set<Principal> on = always(session.user());
    on.addAll(warehouse.closure(roles));
    Principal acting = roles.isEmpty() ? session.user() : roles.get(0);
    return new Session(session.user(), acting, session.login(), on, roles);
  }

  // powers

  /** Whether they may do everything. */
  public boolean administers(Session session) {
    return session.user().powers().contains(ADMINISTRATOR)
        || session.acting().powers().contains(ADMINISTRATOR)
        || house.has(Fact.SUPERUSER_INHERITED)
            && session.on().stream().anyMatch(who -> who.powers().contains(ADMINISTRATOR));
  }

  /** Whether they may manage accounts and roles. */
  public boolean keepsAccounts(Session session) {
    return administers(session)
        || session.on().stream().anyMatch(who -> who.powers().contains(KEEPER));
  }

  private boolean opens(Session session, String privilege, Thing thing) {
    return session.on().stream()
        .flatMap(who -> who.powers().stream())
        .map(power -> house.powers().getOrDefault(power, Map.of()))
        .anyMatch(opened -> opened.getOrDefault(thing.kind(), Set.of()).contains(privilege));
  }

  // rights

  /**
   * What keeps somebody from something.
   *
   * @param columns which of them; null for no column in particular, none for any part
   * @return what is missing, in words; null if nothing
   */
  public @Nullable String missing(
      Session session, String privilege, Thing thing, @Nullable Collection<String> columns) {
    String gate = gate(session, privilege, thing);
    return gate == null ? lacking(session, privilege, thing, columns) : gate;
  }

  /**
   * As {@link #missing}, but for gates, save those of what is sealed: under a view names were
   * looked up when it was made.
   */
  public @Nullable String lacking(
      Session session, String privilege, Thing thing, @Nullable Collection<String> columns) {
    Thing behind = seals.isKey(privilege, thing) ? thing.parent() : thing;
    RefusedException shut = behind == null ? null : seals.shut(session, behind);
    if (shut != null) {
      return shut.getMessage();
    }
    if (columns == null) {
      return holds(session, privilege, thing, null) ? null : no(session, privilege, thing, "");
    }
    if (columns.isEmpty()) {
      boolean any =
          holds(session, privilege, thing, null)
              || thing.columns().keySet().stream()
                  .anyMatch(column -> holds(session, privilege, thing, column));
      return any ? null : no(session, privilege, thing, "");
    }
    for (String column : columns) {
      if (!holds(session, privilege, thing, column)) {
        return no(session, privilege, thing, " (" + column + ")");
      }
    }
    return null;
  }

  private static String no(Session session, String privilege, Thing thing, String columns) {
    String as = session.acting() == session.user() ? "" : " as " + session.acting();
    return session.user() + as + " may not " + privilege + columns + " on " + thing;
  }

  private boolean holds(Session session, String privilege, Thing thing, @Nullable String column) {
    if (!house.on(thing.kind()).contains(privilege)) {
      return false;
    }
    boolean byPower = administers(session) || opens(session, privilege, thing);
    boolean given =
        byPower && !seals.isKey(privilege, thing)
            || owns(session, thing)
            || isThere(session, false, privilege, thing, column, false);
    return given
        && !(house.has(Fact.DENIALS) && isThere(session, true, privilege, thing, column, false));
  }

  private boolean isThere(
      Session session,
      boolean refused,
      String privilege,
      Thing thing,
      @Nullable String column,
      boolean withOption) {
    if (!withOption && isByLabel(session, refused, privilege, thing, column)) {
      return true;
    }
    for (Thing at = thing; at != null; at = at.parent()) {
      boolean stays = refused && house.has(Fact.DENIALS_STAY);
      if (at != thing && (stays || !house.has(Fact.SCHEMA_GRANTS_REACH_DOWN))) {
        return false;
      }
      for (Map.Entry<Right, Boolean> row : warehouse.rights(at).entrySet()) {
        Right right = row.getKey();
        boolean about = right.column() == null || at == thing && right.column().equals(column);
        if (about
            && right.refused() == refused
            && right.privilege().equals(privilege)
            && session.on().contains(right.to())
            && (row.getValue() || !withOption)) {
          return true;
        }
      }
    }
    return false;
  }

  /** What is in a container carries its labels; in what is sealed none counts. */
  private boolean isByLabel(
      Session session, boolean refused, String privilege, Thing thing, @Nullable String column) {
    if (warehouse.labels().isEmpty() || thing.isInWhatIsSealed()) {
      return false;
    }
    Set<String> carried = new LinkedHashSet<>();
    for (Thing at = thing; at != null; at = at.parent()) {
      carried.addAll(at.labels(null));
    }
    if (column != null && house.onColumns().contains(privilege)) {
      carried.addAll(thing.labels(column));
    }
    return carried.stream()
        .map(label -> warehouse.labels().get(label))
        .filter(Objects::nonNull)
        .flatMap(label -> warehouse.rights(label).keySet().stream())
        .anyMatch(
            right ->
                right.refused() == refused
                    && right.privilege().equals(privilege)
                    && session.on().contains(right.to()));
  }

  /** Whether it is theirs, or a role's that is on. */
  public boolean owns(Session session, Thing thing) {
    Thing home = house.owners() == Owners.SCHEMA ? thing.enclosing("schema") : thing;
    return house.owners() != Owners.NONE && home != null && session.on().contains(home.owner());
  }

  /** Whether they may do with the thing itself what they like: drop it, give it away. */
  public boolean disposes(Session session, Thing thing) {
    return administers(session) || session.on().contains(thing.owner()) || owns(session, thing);
  }

  private @Nullable String gate(Session session, String privilege, Thing thing) {
    Session atLogin = atLogin(session);
    if (administers(atLogin)) {
      return null;
    }
    for (Gate gate : house.gates()) {
      Thing container = gate.sealed() ? null : thing.enclosing(gate.container());
      boolean own = container == thing;
      if (container == null || own && (!gate.own() || privilege.equals(gate.privilege()))) {
        continue;
      }
      Session who = gate.login() ? atLogin : session;
      if (!holds(who, gate.privilege(), container, null)) {
        return no(who, gate.privilege(), container, "");
      }
    }
    return null;
  }

  private static Session atLogin(Session session) {
    return new Session(session.user(), session.user(), session.login(), session.login(), null);
  }

  /** What keeps somebody from logging in at all; null if nothing. */
  public @Nullable String missingToEnter(Session session) {
    for (Gate gate : house.gates()) {
      boolean atTheDoor = gate.login() && gate.container().equals("server");
      if (atTheDoor
          && !administers(session)
          && !holds(session, gate.privilege(), warehouse.server(), null)) {
        return no(session, gate.privilege(), warehouse.server(), "");
      }
    }
    return null;
  }

  /**
   * What keeps somebody from giving a privilege to others; null if nothing. Who gives must have it;
   * administrators may always.
   */
  public @Nullable String missingToGive(
      Session session, String privilege, Thing thing, @Nullable String column) {
    RefusedException shut = seals.shut(session, thing);
    shut = shut == null ? seals.shutBelow(session, privilege, thing) : shut;
    if (shut != null) {
      return shut.getMessage();
    }
    if (administers(session) && !seals.isKey(privilege, thing)) {
      return null;
    }
    String lacking = missing(session, privilege, thing, column == null ? null : List.of(column));
    if (lacking == null && column == null && !thing.columns().isEmpty()) {
      // the whole is all of its columns
      lacking = lacking(session, privilege, thing, thing.columns().keySet());
    }
    if (lacking != null) {
      return lacking;
    }
    boolean option =
        house.has(Fact.GRANT_OPTIONS) && isThere(session, false, privilege, thing, column, true);
    boolean power = house.has(Fact.POWERS_GRANT_ON) && opens(session, privilege, thing);
    return option || power || grantsAsOwner(session, thing)
        ? null
        : session.acting() + " may not give on " + privilege + " on " + thing;
  }

  private boolean grantsAsOwner(Session session, Thing thing) {
    Thing home = house.owners() == Owners.SCHEMA ? thing.enclosing("schema") : thing;
    return owns(session, thing)
        && home != null
        && (home.owner().isUser() || !house.has(Fact.OWNING_ROLES_GRANT_NOTHING));
  }
}
