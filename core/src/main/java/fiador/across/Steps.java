package fiador.across;

import fiador.across.Leg.Answer;
import fiador.across.Leg.Why;
import fiador.effects.State;
import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.Account;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Reads;
import java.time.Clock;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Takes the steps from foreign tables to the rows behind them. */
final class Steps {
  /** Whoever may make foreign tables could have them lead everywhere without end. */
  private static final int MOST = 200;

  private final Access home;
  private final Atlas atlas;
  private final Clock clock;
  private final IdentityHashMap<Access, Tracer> tracers = new IdentityHashMap<>();
  private final IdentityHashMap<Access, Map<Integer, List<Integer>>> parts =
      new IdentityHashMap<>();
  private int left;

  Steps(Access home, Atlas atlas, Clock clock) {
    this.home = home;
    this.atlas = atlas;
    this.clock = clock;
  }

  /** The steps that reading something takes, as somebody, of whom that right is known. */
  List<Leg> of(int who, int node, BitSet columns) {
    left = MOST;
    return collect(home, who, node, columns, new HashSet<>());
  }

  static Answer worst(List<Leg> legs) {
    Answer worst = Answer.OPEN;
    for (Leg leg : legs) {
      worst = leg.answer().compareTo(worst) > 0 ? leg.answer() : worst;
    }
    return worst;
  }

  private record Step(String server, int who, int node) {}

  /** Something that is read on one server, as somebody; without columns where any will do. */
  private record Part(int who, int node, @Nullable BitSet columns) {}

  /**
   * The steps that reading something takes: through the views above, each looked at once.
   *
   * @param asker who asks; views read as their owners or, where they say so, as who asks
   * @param columns ordinals; null where just any column is needed
   * @param way the foreign tables on the way here
   */
  private List<Leg> collect(
      Access here, int asker, int node, @Nullable BitSet columns, Set<Step> way) {
    List<Leg> legs = new ArrayList<>();
    Set<Part> seen = new HashSet<>();
    Deque<Part> open = new ArrayDeque<>(List.of(new Part(asker, node, columns)));
    while (!open.isEmpty()) {
      Part part = open.poll();
      Abroad.Place place = here.seen().abroad().placeOf(part.node());
      NodeKind kind = here.tree().kind(part.node());
      // of a stored copy below another view the rows lie here
      boolean filled = kind == NodeKind.MATERIALIZED_VIEW && part.node() == node;
      boolean view = kind == NodeKind.VIEW || filled;
      if (!seen.add(view ? new Part(part.who(), part.node(), null) : part)) {
        continue;
      }
      if (place != null) {
        legs.add(next(here, part, place, way));
      } else if (view) {
        under(here, asker, part.node(), open);
      }
      for (int piece : parts(here).getOrDefault(part.node(), List.of())) {
        open.add(new Part(part.who(), piece, byName(here, part, piece)));
      }
    }
    return List.copyOf(legs);
  }

  /** The tables elsewhere that are parts of one here. */
  Map<Integer, List<Integer>> parts(Access access) {
    return parts.computeIfAbsent(access, fresh -> fresh.seen().abroad().parts());
  }

  private static @Nullable BitSet byName(Access here, Part whole, int piece) {
    return whole.columns() == null ? null : byName(here, whole.node(), whole.columns(), piece);
  }

  /** Columns of a table as those of a part of it, which may stand in another order there. */
  static BitSet byName(Access here, int whole, BitSet columns, int piece) {
    BitSet found = new BitSet();
    for (int at = columns.nextSetBit(0); at >= 0; at = columns.nextSetBit(at + 1)) {
      int ordinal = here.tree().columnNamed(piece, here.tree().column(whole, at));
      if (ordinal >= 0) {
        found.set(ordinal);
      }
    }
    return found;
  }

  private static void under(Access here, int asker, int view, Deque<Part> open) {
    Reads reads = here.reads();
    int owner = here.tree().owner(view);
    int reader = here.tree().is(view, NodeFact.INVOKER) || owner < 0 ? asker : owner;
    for (int at = reads.byView().from(view); at < reads.byView().to(view); at++) {
      int row = reads.byView().row(at);
      BitSet columns = columns(here, reads.columns().get(row));
      open.add(new Part(reader, reads.under().get(row), columns));
    }
  }

  private Leg next(Access here, Part part, Abroad.Place place, Set<Step> way) {
    String server = here.about().identity() + here.about().server();
    Step step = new Step(server, part.who(), part.node());
    if (--left < 0) {
      return ended(here, part.who(), part.node(), place, Answer.UNKNOWN, Why.TOO_MANY);
    } else if (!way.add(step)) {
      return ended(here, part.who(), part.node(), place, Answer.CLOSED, Why.CIRCLE);
    }
    Leg leg = leg(here, part.who(), part.node(), place, part.columns(), way);
    way.remove(step);
    return leg;
  }

  private static @Nullable BitSet columns(Access access, int columnSet) {
    if (columnSet == ColumnSets.WHOLE) {
      return null;
    }
    BitSet columns = new BitSet();
    for (int ordinal : access.columnSets().ordinals(columnSet)) {
      columns.set(ordinal);
    }
    return columns;
  }

  private Leg leg(
      Access here, int who, int node, Abroad.Place place, @Nullable BitSet columns, Set<Step> way) {
    switch (place.carrier()) {
      case FILE -> {
        return ended(here, who, node, place, Answer.OPEN, Why.FILE);
      }
      case PROGRAM -> {
        return ended(here, who, node, place, Answer.OPEN, Why.PROGRAM);
      }
      case MARIADB, OTHER -> {
        return ended(here, who, node, place, Answer.UNKNOWN, Why.NOT_FOLLOWED);
      }
      default -> {}
    }
    Abroad abroad = here.seen().abroad();
    Abroad.Login login = abroad.login(who, abroad.table(node).place());
    Access there = atlas.at(here, place);
    if (login == null) {
      return ended(here, who, node, place, Answer.CLOSED, Why.NO_MAPPING);
    }
    Landing landing = new Landing(here, who, node, place, login, there);
    if (!login.shown()) {
      return landing.ended(Answer.UNKNOWN, Why.LOGIN_NOT_SHOWN);
    }
    if (login.secretNeeded() && !login.secret() && !here.isSuperuser(who)) {
      return landing.ended(Answer.CLOSED, Why.NO_SECRET);
    }
    if (login.user() == null) {
      return landing.ended(Answer.UNKNOWN, Why.LOGIN_NOT_SAID);
    }
    return there == null
        ? landing.ended(Answer.UNKNOWN, Why.NO_SURVEY)
        : landing.arrive(there, login.user(), columns, way);
  }

  private static Leg ended(
      Access here, int who, int node, Abroad.Place place, Answer answer, Why why) {
    return new Leg(
        here,
        who,
        None.PRINCIPAL,
        node,
        None.NODE,
        place,
        null,
        null,
        null,
        answer,
        why,
        List.of());
  }

  Tracer tracer(Access access) {
    return tracers.computeIfAbsent(access, fresh -> new Tracer(fresh, clock));
  }

  /** The other end of a step, as far as it is known. */
  private final class Landing {
    private final Access here;
    private final int who;
    private final int table;
    private final Abroad.Place place;
    private final Abroad.Login login;
    private final @Nullable Access there;
    private int user = None.PRINCIPAL;
    private int node = None.NODE;

    Landing(
        Access here,
        int who,
        int table,
        Abroad.Place place,
        Abroad.Login login,
        @Nullable Access there) {
      this.here = here;
      this.who = who;
      this.table = table;
      this.place = place;
      this.login = login;
      this.there = there;
    }

    Leg ended(Answer answer, @Nullable Why why) {
      return ended(answer, why, null, List.of());
    }

    private Leg ended(Answer answer, @Nullable Why why, @Nullable Trace trace, List<Leg> onward) {
      return new Leg(here, who, user, table, node, place, login, there, trace, answer, why, onward);
    }

    Leg arrive(Access other, String name, @Nullable BitSet columns, Set<Step> way) {
      Principals people = other.principals();
      user = people.named(name);
      if (user < 0) {
        return ended(Answer.CLOSED, Why.NO_ACCOUNT);
      }
      Account account = people.account(user);
      boolean over =
          account.until() != null
              && account.until().getEpochSecond() <= clock.instant().getEpochSecond();
      if (!people.isUser(user) || account.disabled() || over && login.secret()) {
        return ended(Answer.CLOSED, Why.NO_ENTRY);
      }
      Tree tree = other.tree();
      int database = database(tree, name);
      if (database >= 0 && tree.is(database, NodeFact.UNREAD)) {
        return ended(Answer.UNKNOWN, Why.NOT_SURVEYED);
      }
      Abroad.Table said = here.seen().abroad().table(table);
      int schema = database < 0 ? None.NODE : tree.child(database, said.schema(), Steps::any);
      node =
          schema < 0
              ? None.NODE
              : tree.child(schema, said.name(), each -> holdsRows(tree.kind(each)));
      if (node < 0) {
        return ended(Answer.CLOSED, Why.NO_TABLE);
      }
      BitSet wanted = columns == null ? null : named(other, said, columns);
      if (wanted == null && columns != null) {
        return ended(Answer.CLOSED, Why.NO_COLUMN);
      }
      Trace trace = right(other, wanted);
      if (trace.state() == State.ON_REQUEST) {
        return ended(Answer.CLOSED, Why.NOT_SWITCHED, trace, List.of());
      }
      if (trace.state() != State.LIVE) {
        return ended(Answer.CLOSED, null, trace, List.of());
      }
      List<Leg> onward = collect(other, user, node, wanted, way);
      Answer answer = worst(onward);
      return answer == Answer.OPEN && !login.secret()
          ? ended(Answer.UNKNOWN, Why.MAYBE_ASKED, trace, onward)
          : ended(answer, null, trace, onward);
    }

    private int database(Tree tree, String name) {
      if (!place.database().isEmpty()) {
        return tree.child(0, place.database(), Steps::any);
      }
      // a warehouse without databases has its schemas on the server itself
      return place.carrier() == Abroad.Carrier.WAREHOUSE ? 0 : tree.child(0, name, Steps::any);
    }

    /** What columns are called there; null where one is not there. */
    private @Nullable BitSet named(Access other, Abroad.Table said, BitSet columns) {
      BitSet named = new BitSet();
      for (int at = columns.nextSetBit(0); at >= 0; at = columns.nextSetBit(at + 1)) {
        String column = said.columns().getOrDefault(at, here.tree().column(table, at));
        int ordinal = other.tree().columnNamed(node, column);
        if (ordinal < 0) {
          return null;
        }
        named.set(ordinal);
      }
      return named;
    }

    /** The trace that decides: of the whole, or of the first column that is missing. */
    private Trace right(Access other, @Nullable BitSet columns) {
      Tracer tracer = tracer(other);
      Trace whole = tracer.trace(user, Privilege.SELECT, node, None.COLUMN, 1);
      if (whole.state() == State.LIVE) {
        return whole;
      }
      Trace missing = null;
      Trace some = null;
      for (int at = 0; at < other.tree().columns(node); at++) {
        if (columns == null || columns.get(at)) {
          Trace one = tracer.trace(user, Privilege.SELECT, node, at, 1);
          if (one.state() == State.LIVE) {
            some = one;
          } else {
            missing = one;
          }
        }
      }
      // where no column comes, the answer about the whole says it best
      if (some == null) {
        return whole;
      }
      return columns == null || missing == null ? some : missing;
    }
  }

  private static boolean any(int node) {
    return true;
  }

  private static boolean holdsRows(NodeKind kind) {
    return kind == NodeKind.TABLE || kind == NodeKind.VIEW || kind == NodeKind.MATERIALIZED_VIEW;
  }
}
