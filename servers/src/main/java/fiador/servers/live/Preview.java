package fiador.servers.live;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.effects.Switch;
import fiador.effects.Switching;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.policies.RowsDigest;
import fiador.policies.SafeColumn;
import fiador.policies.Seeing;
import fiador.policies.Simulation;
import fiador.policies.TableSight;
import fiador.predicates.InSession;
import fiador.predicates.Subject;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Tables as users get them: simulated from their rows, which the administrator reads, and as the
 * server shows them. Rows are streamed; memory holds those to be shown.
 */
public final class Preview {
  private Runnable eachRow = () -> {};
  private final Access access;
  private final Tree tree;
  private final Seeing seeing;
  private final Sight sight;
  private final Holdings holdings;
  private final Clock clock;

  /** On that server, with what its survey says. */
  public Preview(Server server, Login login, Access access, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.seeing = new Seeing(access);
    this.sight = new Sight(server, login, access);
    this.holdings = new Holdings(access, clock, true);
    this.clock = clock;
  }

  /**
   * What a user can read of a table at all.
   *
   * @param user the user's id
   * @param node the table, or the view through which it is read
   * @param table the table whose rows come back
   * @param columns the ordinals of the columns that can be read; null when nothing can
   * @param answer what decides on rows and columns; null when nothing does
   * @param subject the user as policies find it
   */
  public record View(
      int user, int node, int table, BitSet columns, Seeing.Answer answer, Subject subject) {
    /** Whether the user can read anything. */
    public boolean isOpen() {
      return columns != null;
    }

    /** Whether it is known what comes back. */
    public boolean isKnown() {
      return answer == null || answer.isKnown();
    }

    private TableSight policies() {
      boolean free = answer == null || answer.exempt() != null;
      return !isOpen() ? TableSight.CLOSED : free ? TableSight.OPEN : answer.sight();
    }
  }

  /**
   * Through what a user reads a table: the table itself, or else the view that shows it safely.
   *
   * @throws ServerException when a lookup table cannot be read
   */
  public View view(int user, int asked) throws ServerException {
    int node = asked;
    BitSet columns = readable(user, node);
    int safe = seeing.safeViewOf(asked);
    BitSet safely = safe < 0 ? null : readable(user, safe);
    boolean round = columns != null && seeing.getsRound(user, asked, columns);
    if (safe >= 0 && !round && (columns == null || safely != null)) {
      node = safe;
      columns = safely;
    }
    int database = Math.max(0, tree.enclosing(node, NodeKind.DATABASE));
    Map<String, List<Object>> lookups =
        columns == null || !seeing.decides(node)
            ? Map.of()
            : sight.lookups(database, seeing.subject(user, database, Map.of()));
    Seeing.Answer answer = seeing.of(user, node, lookups);
    int table = answer == null ? node : answer.table();
    Subject subject = seeing.subject(user, database, lookups);
    boolean asksSession = answer != null && answer.sight().asksSession();
    return new View(
        user,
        node,
        table,
        columns,
        answer,
        asksSession ? new InSession(subject, sight.session(node)) : subject);
  }

  /** The columns a user can read, at once or after switching; null for none. */
  private BitSet readable(int user, int node) {
    BitSet columns = null;
    for (Holding row : holdings.at(user, node)) {
      boolean open = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
      if (row.privilege() == Privilege.SELECT && open) {
        columns = columns == null ? new BitSet() : columns;
        if (row.columns() == null) {
          columns.set(0, tree.columns(node));
        } else {
          columns.or(row.columns());
        }
      }
    }
    return columns;
  }

  /** The columns of the table of a view. */
  public List<SafeColumn> columns(View view) {
    return seeing.columns(view.table());
  }

  /**
   * What came of reading a table once.
   *
   * @param rows how many rows it has
   * @param shown how many the user gets
   * @param compared how many another user gets, 0 without one
   * @param first the first rows as the user gets them
   * @param groups all rows, the user's and the other's by the values of a column
   * @param digest what the user gets, to be compared
   */
  public record Count(
      long rows,
      long shown,
      long compared,
      List<Object[]> first,
      Map<String, long[]> groups,
      RowsDigest digest) {}

  /**
   * Reads a table as the administrator and works out what users get of it. Cost: the table, once.
   *
   * @param other another user's view of the same table, or null
   * @param groupBy the ordinal of a column to count by, or -1
   * @param most how many rows to keep
   */
  public Count count(View view, View other, int groupBy, int most) throws ServerException {
    List<SafeColumn> columns = columns(view);
    byte[] key = sight.digestKey(view.table());
    Simulation mine = new Simulation(view.policies(), view.subject(), columns, key);
    Simulation others =
        other == null ? null : new Simulation(other.policies(), other.subject(), columns, key);
    List<Object[]> first = new ArrayList<>();
    Map<String, long[]> groups = new TreeMap<>();
    RowsDigest digest = new RowsDigest();
    sight.read(
        view.table(),
        columns,
        row -> {
          eachRow.run();
          Object[] shown = mine.row(row);
          boolean alsoOther = others != null && others.row(row) != null;
          if (shown != null) {
            digest.add(shown, view.columns());
            if (first.size() < most) {
              first.add(shown);
            }
          }
          if (groupBy >= 0) {
            long[] counts =
                groups.computeIfAbsent(String.valueOf(row[groupBy]), none -> new long[3]);
            counts[0]++;
            counts[1] += shown == null ? 0 : 1;
            counts[2] += alsoOther ? 1 : 0;
          }
          return true;
        });
    return new Count(
        mine.rows(), mine.shown(), others == null ? 0 : others.shown(), first, groups, digest);
  }

  /** Tells of every row that is read from now on, whoever it is shown to. */
  public Preview watched(Runnable eachRow) {
    this.eachRow = eachRow;
    return this;
  }

  /** Whether somebody can act as a user here without that user's secret. */
  public boolean canAct() {
    return sight.canAct();
  }

  /** The name by which policies know a user, without a host. */
  public String key(int user) {
    return access.bareName(user);
  }

  /**
   * What the server itself gave a user.
   *
   * @param digest what came back; null when it was not tried
   * @param notTried why it was not tried; null when it was
   * @param switched the switch that came first; null for none
   */
  public record Live(RowsDigest digest, String notTried, Switch switched) {}

  /**
   * What the server itself gives a user.
   *
   * @param secret the user's own where {@link #canAct} is false; else null
   */
  public Live live(View view, String secret) throws ServerException {
    RowsDigest found = new RowsDigest();
    List<SafeColumn> columns = new ArrayList<>();
    view.columns().stream().forEach(i -> columns.add(columns(view).get(i)));
    BitSet all = new BitSet();
    all.set(0, columns.size());
    int first = columns.isEmpty() ? -1 : tree.columnNamed(view.node(), columns.get(0).name());
    Switch before =
        Switching.first(access, clock, view.user(), Privilege.SELECT, view.node(), first);
    String code =
        sight.readAs(
            view.user(),
            secret,
            before,
            view.node(),
            columns,
            row -> {
              eachRow.run();
              found.add(row, all);
              return true;
            });
    return code == null ? new Live(found, null, before) : new Live(null, code, null);
  }

  /** The access the preview is of. */
  public Access access() {
    return access;
  }
}
