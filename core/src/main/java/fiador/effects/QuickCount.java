package fiador.effects;

import fiador.estate.Adjacency;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Counts the holdings of a user without working out their states. A node has one row for each
 * privilege held there, whatever its state, unless the rows may differ in more than that: where
 * columns come with the right to give them on, or where columns or that right come from several
 * sessions. Such nodes are left to {@link Holdings}. One word a node, and the bits of a grant ready
 * made, because fetching them is what the counting costs: the grants of all roles of all sessions.
 */
final class QuickCount {
  /** Says that the user has to be counted the long way. */
  static final long NOT_SO_EASY = -1;

  /**
   * A word: the round it was last touched in, flags, the session, privileges on parts and whole.
   */
  private static final int ROUND_AT = 48;

  private static final int LAST_ROUND = (1 << 16) - 1;
  private static final long SEVERAL_SESSIONS = 1L << 47;
  static final long GRANTABLE = 1L << 46;
  private static final int SESSION_AT = 32;
  private static final int LAST_SESSION = (1 << 14) - 1;
  private static final int PARTS_AT = 16;
  private static final long PRIVILEGES = (1 << PARTS_AT) - 1;
  private static final long STAMP =
      (long) LAST_ROUND << ROUND_AT | (long) LAST_SESSION << SESSION_AT;

  /** What can make a node's rows more than its privileges. */
  private static final long SPECIAL = GRANTABLE | PRIVILEGES << PARTS_AT;

  private final Access access;
  private final Tree tree;
  private final Grants grants;
  private final Gathering gathering;
  private final boolean withSystem;

  /** What a grant of these terms adds to a word, where it is on the whole. */
  private final long[] wordOf;

  /** What comes down from containers; null where it counts on the container alone. */
  private final Containers inside;

  private final boolean possible;
  private final IntArrayList hard = new IntArrayList();
  private long[] words;
  private long round;

  /** The round and the session, as they stand in a word. */
  private long stamp;

  private long rows;

  /** Set where what comes down may be another session's than what a grant adds. */
  private long severalAbove;

  QuickCount(Access access, Gathering gathering, boolean withSystem, boolean compact) {
    this.access = access;
    this.tree = access.tree();
    this.grants = access.grants();
    this.gathering = gathering;
    this.withSystem = withSystem;
    this.wordOf = new long[grants.differentTerms()];
    boolean fits = true;
    for (NodeKind kind : NodeKind.values()) {
      fits &= access.rules().privilegesOn(kind) <= PRIVILEGES;
    }
    for (int id = 0; id < wordOf.length; id++) {
      Terms terms = grants.termsAt(id);
      fits &= terms.privileges() <= PRIVILEGES;
      wordOf[id] = terms.privileges() | (terms.grantable() == 0 ? 0 : GRANTABLE);
    }
    this.inside = compact ? null : new Containers(access, gathering, withSystem);
    this.possible =
        fits
            && !access.rules().has(HouseFact.DENIALS)
            && !access.rules().has(HouseFact.ENFORCES_TIME)
            && !access.rules().has(HouseFact.ONE_ROW_COUNTS)
            && tree.sealed().size() == 0
            && !(withSystem && gathering.anyGuarded());
  }

  /**
   * How many rows the sessions of a user amount to, without those on the {@link #hard} nodes, or
   * {@link #NOT_SO_EASY}.
   */
  long count(List<Session> sessions) {
    if (!possible || sessions.size() > LAST_SESSION) {
      return NOT_SO_EASY;
    }
    begin();
    if (inside == null ? sessions.stream().anyMatch(this::opens) : !comesDown(sessions)) {
      return NOT_SO_EASY;
    }
    for (Session each : sessions) {
      stamp += 1L << SESSION_AT;
      for (int i = 0; i < each.roles().size(); i++) {
        addGrants(each.roles().getInt(i));
        addOwned(each.roles().getInt(i));
      }
    }
    return rows;
  }

  /** Adds what comes down from containers; false where that cannot be counted like this. */
  private boolean comesDown(List<Session> sessions) {
    if (sessions.stream().anyMatch(Session::isSuperuser)) {
      return false;
    }
    inside.begin();
    for (Session each : sessions) {
      inside.add(each);
    }
    boolean several = sessions.size() > 1;
    if (several && inside.anyGrantable()) {
      return false;
    }
    severalAbove = several ? SEVERAL_SESSIONS : 0;
    rows = inside.finish();
    return true;
  }

  /** The nodes that the last count left out. */
  IntArrayList hard() {
    return hard;
  }

  /**
   * Adds up what one of the sessions of the last count was given on the nodes that it left out.
   * Cost: the grants of its roles, however many grants others have on those nodes.
   *
   * @param into where it is added up; cleared first
   */
  void collectHard(Session session, Tally into) {
    gathering.collect(session, this::isLeftOut, into);
    if (inside != null) {
      inside.begin();
      inside.add(session);
      inside.finish();
      for (int i = 0; i < hard.size(); i++) {
        inside.addAbove(hard.getInt(i), into);
      }
    }
  }

  private boolean isLeftOut(int node) {
    return words[node] >>> ROUND_AT == round && isHard(words[node]);
  }

  private boolean opens(Session session) {
    if (session.isSuperuser()) {
      return true;
    }
    for (Power power : access.rules().powers().keySet()) {
      if ((session.powers() & power.bit()) != 0) {
        return true;
      }
    }
    return false;
  }

  private void begin() {
    rows = 0;
    hard.clear();
    if (words == null) {
      words = new long[tree.size()];
    }
    if (++round > LAST_ROUND) {
      Arrays.fill(words, 0);
      round = 1;
    }
    stamp = round << ROUND_AT;
  }

  private void addGrants(int role) {
    Adjacency run = grants.byGrantee();
    int end = run.to(role);
    if (run.isIdentity()) {
      int from = run.from(role);
      while (from < end) {
        int to = Math.min(end, grants.nodes().endOfArray(from));
        addGrants(from, to);
        from = to;
      }
    } else {
      for (int place = run.from(role); place < end; place++) {
        int row = run.row(place);
        addGrant(grants.node(row), grants.termsId(row), grants.columns(row));
      }
    }
  }

  /** Rows that lie side by side in one array of each column. */
  private void addGrants(int from, int to) {
    int[] nodes = grants.nodes().array(from);
    int[] terms = grants.termsIds().array(from);
    int[] columns = grants.columnSets().array(from);
    int first = grants.nodes().inArray(from);
    for (int at = first; at < first + to - from; at++) {
      addGrant(nodes[at], terms[at], columns[at]);
    }
  }

  private void addGrant(int node, int terms, int columns) {
    long word = wordOf[terms];
    if (columns != ColumnSets.WHOLE) {
      word = (word & PRIVILEGES) << PARTS_AT | word & ~PRIVILEGES;
    }
    add(node, word);
  }

  private void add(int node, long more) {
    long word = words[node];
    long both;
    if ((word & STAMP) == stamp) {
      both = word | more;
    } else if (word >>> ROUND_AT == round) {
      both = word | more | SEVERAL_SESSIONS;
    } else if (withSystem || !gathering.isSystem(node)) {
      // what comes down to it is counted already
      word = inside == null ? 0 : fromAbove(node);
      both = stamp | word | more;
    } else {
      return;
    }
    if (both == word) {
      return;
    }
    words[node] = both;
    if ((both & SPECIAL) == 0) {
      rows += Long.bitCount(both & PRIVILEGES) - Long.bitCount(word & PRIVILEGES);
    } else if (!isHard(word)) {
      rows += rows(both) - rows(word);
      if (isHard(both)) {
        hard.add(node);
        rows -= rows(both);
      }
    }
  }

  private long fromAbove(int node) {
    long above = inside.above(node);
    return above == 0 ? 0 : above | severalAbove;
  }

  private static int rows(long word) {
    return Long.bitCount((word | word >>> PARTS_AT) & PRIVILEGES);
  }

  private static boolean isHard(long word) {
    boolean parts = (word & PRIVILEGES << PARTS_AT) != 0;
    boolean grantable = (word & GRANTABLE) != 0;
    return (word & SEVERAL_SESSIONS) == 0 ? parts && grantable : parts || grantable;
  }

  private void addOwned(int role) {
    Ownership ownership = access.rules().ownership();
    for (int at = tree.owned().from(role); at < tree.owned().to(role); at++) {
      int node = tree.owned().row(at);
      if (ownership == Ownership.OBJECT) {
        long all = access.rules().privilegesOn(tree.kind(node));
        add(node, all & ~tree.withheld(node) | GRANTABLE);
      } else if (ownership == Ownership.SCHEMA && tree.kind(node) == NodeKind.SCHEMA) {
        add(node, access.rules().privilegesOn(NodeKind.SCHEMA) & ~tree.withheld(node) | GRANTABLE);
        for (int i = tree.children().from(node);
            i < tree.children().to(node) && inside == null;
            i++) {
          int child = tree.children().row(i);
          long all = access.rules().privilegesOn(tree.kind(child)) & ~tree.withheld(child);
          add(child, all | GRANTABLE);
        }
      }
    }
  }
}
