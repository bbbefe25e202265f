package fiador.standin.deeds;

import fiador.standin.estate.Judge;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.Principal.Sort;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Session;
import fiador.standin.estate.Thing;
import fiador.standin.estate.Warehouse;
import fiador.standin.house.House;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** One statement being carried out: by whom, on what, and what is to be kept of it. */
public final class Doing {
  private final House house;
  private final Warehouse warehouse;
  private final Judge judge;
  private final Rows rows;
  private final Kept kept;
  private final List<Thing> dropped = new ArrayList<>();
  private final boolean again;
  private Session session;
  private boolean switched;
  private String text;

  /**
   * @param text the statement
   * @param kept what was kept of it when it was carried out the first time; empty the first time
   * @param again whether it is carried out again, as it stands in the journal: nobody is asked
   *     whether they may, and secrets stand there as they are checked
   */
  public Doing(
      House house,
      Warehouse warehouse,
      Rows rows,
      Session session,
      String text,
      Kept kept,
      boolean again) {
    this.house = house;
    this.warehouse = warehouse;
    this.judge = new Judge(house, warehouse);
    this.rows = rows;
    this.session = session;
    this.text = text;
    this.kept = kept;
    this.again = again;
  }

  House house() {
    return house;
  }

  Warehouse warehouse() {
    return warehouse;
  }

  Judge judge() {
    return judge;
  }

  Rows rows() {
    return rows;
  }

  /** What is kept of it beside its text. */
  public Kept kept() {
    return kept;
  }

  boolean again() {
    return again;
  }

  /** Who is at work, once it is done. */
  public Session session() {
    return session;
  }

  void session(Session other) {
    this.session = other;
    this.switched = true;
  }

  /** Whether it changed who is on, and nothing else. */
  public boolean switched() {
    return switched;
  }

  void dropped(Thing thing) {
    dropped.add(thing);
  }

  /** What is there no longer; its rows can be thrown away once that is kept, and not before. */
  public List<Thing> dropped() {
    return dropped;
  }

  /** The statement as it may be kept: no secret in it. */
  public String text() {
    return text;
  }

  void text(String without) {
    this.text = without;
  }

  // what statements ask for again and again

  void needAccounts(String what) throws RefusedException {
    if (!again && !judge.keepsAccounts(session)) {
      throw new RefusedException(session.acting() + " may not " + what);
    }
  }

  void needAdministrator(String what) throws RefusedException {
    if (!again && !judge.administers(session)) {
      throw new RefusedException(session.acting() + " may not " + what);
    }
  }

  /** Who is not let in somewhere gets there by nobody who is. */
  void needWithin(Principal other) throws RefusedException {
    throwIf(again ? null : judge.seals().beyond(session, other));
  }

  private static void throwIf(@Nullable RefusedException refused) throws RefusedException {
    if (refused != null) {
      throw refused;
    }
  }

  void needDisposal(Thing thing) throws RefusedException {
    throwIf(again ? null : judge.seals().shut(session, thing));
    if (!again && !judge.disposes(session, thing)) {
      throw new RefusedException(session.acting() + " does not own " + thing);
    }
  }

  void need(String privilege, Thing thing) throws RefusedException {
    boolean exists = house.on(thing.kind()).contains(privilege);
    throwIf(again ? null : judge.seals().shut(session, thing));
    if (again || !exists && judge.disposes(session, thing)) {
      return;
    }
    String missing = judge.missing(session, privilege, thing, null);
    if (missing != null) {
      throw new RefusedException(missing, privilege, thing);
    }
  }

  Principal principal(String name) throws MistakeException {
    Principal found = warehouse.principal(name);
    if (found == null) {
      throw new MistakeException("there is no user or role " + name);
    }
    return found;
  }

  Principal of(Sort sort, String name) throws MistakeException {
    Principal found = principal(name);
    if (found.sort() != sort) {
      throw new MistakeException(name + " is no " + (sort == Sort.USER ? "user" : "role"));
    }
    return found;
  }

  /**
   * What a path names.
   *
   * @param kind what it must be; null for anything
   */
  Thing thing(@Nullable String kind, List<String> path) throws MistakeException {
    Thing at = warehouse.server();
    for (String name : path) {
      Thing next = at.inside(name);
      if (next == null) {
        throw new MistakeException("there is no " + String.join(".", path));
      }
      at = next;
    }
    if (kind != null && !at.kind().equals(kind)) {
      throw new MistakeException(at.path() + " is a " + at.kind() + " and no " + kind);
    }
    return at;
  }

  /** The label of that name. */
  Thing label(String name) throws MistakeException {
    Thing found = warehouse.labels().get(name);
    if (found == null) {
      throw new MistakeException("nothing carries the label " + name);
    }
    return found;
  }

  /** Where a new schema, table or view is to be. */
  Thing container(String kind, List<String> path) throws MistakeException {
    int names = (house.databases() ? 1 : 0) + (kind.equals("schema") ? 1 : 2);
    if (path.size() != names) {
      throw new MistakeException(
          "the name of a " + kind + " has " + names + " parts here: " + parts(kind));
    }
    return thing(null, path.subList(0, path.size() - 1));
  }

  private String parts(String kind) {
    String schema = house.databases() ? "database.schema" : "schema";
    return kind.equals("schema") ? schema : schema + "." + kind;
  }
}
