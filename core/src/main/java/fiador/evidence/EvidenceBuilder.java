package fiador.evidence;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.evidence.Evidence.Attempt;
import fiador.evidence.Evidence.Tries;
import fiador.evidence.Evidence.Use;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Reads;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/** Collects what was used. Memory: one entry for each different use, however often it is seen. */
public final class EvidenceBuilder {
  private static final int EXAMPLES = 10;
  private static final int EXAMPLE_LENGTH = 120;
  private static final int LOOKED_AT = 1_000;
  private static final Pattern QUOTED = Pattern.compile("'(?:[^']|'')*'?");

  private final Access access;
  private final Map<Use, Instant> uses = new HashMap<>();
  private final Map<Integer, Instant> seen = new HashMap<>();
  private final Map<Attempt, Tries> refused = new HashMap<>();
  private final List<String> examples = new ArrayList<>();
  private Instant from;
  private Instant to;
  private long statements;
  private long unread;

  /** Of that server's estate. */
  public EvidenceBuilder(Access access) {
    this.access = access;
  }

  /** Says that it was watched at that time, whether or not anything happened. */
  public void watched(Instant at) {
    from = from == null || at.isBefore(from) ? at : from;
    to = to == null || at.isAfter(to) ? at : to;
  }

  /** A user did something. */
  public void seen(int user, Instant at) {
    watched(at);
    seen.merge(user, at, EvidenceBuilder::later);
  }

  /** A statement was read. */
  public void statement() {
    statements++;
  }

  /** A statement could not be understood; what stands in quotes is not kept. */
  public void unread(String statement) {
    unread++;
    if (examples.size() < EXAMPLES) {
      // the pattern goes deeper with each character in quotes
      String begin = statement.substring(0, Math.min(statement.length(), LOOKED_AT));
      String plain = QUOTED.matcher(begin).replaceAll("'...'").replaceAll("\\s+", " ").strip();
      boolean fits = plain.length() <= EXAMPLE_LENGTH;
      examples.add(fits ? plain : plain.substring(0, EXAMPLE_LENGTH) + "...");
    }
  }

  /**
   * A user used something. What lies under a view that reads with its user's rights was used too.
   *
   * @param column as for {@link Use}
   */
  public void use(int user, Privilege privilege, int node, int column, Instant at) {
    seen(user, at);
    uses.merge(new Use(user, privilege, node, column), at, EvidenceBuilder::later);
    boolean through = access.tree().kind(node) == NodeKind.VIEW && privilege == Privilege.SELECT;
    if (through && access.tree().is(node, NodeFact.INVOKER)) {
      under(user, node, at);
    }
  }

  /** A user tried something and was refused. */
  public void refused(int user, Privilege privilege, int node, Instant at) {
    seen(user, at);
    refused.merge(new Attempt(user, privilege, node), new Tries(1, at), Tries::and);
  }

  private void under(int user, int view, Instant at) {
    Reads reads = access.reads();
    IntArrayList open = IntArrayList.of(view);
    IntOpenHashSet known = new IntOpenHashSet(open);
    while (!open.isEmpty()) {
      for (int row : reads.byView().run(open.popInt())) {
        int node = reads.under().get(row);
        boolean routine = access.tree().kind(node) == NodeKind.ROUTINE;
        Privilege privilege = routine ? Privilege.EXECUTE : Privilege.SELECT;
        int columns = reads.columns().get(row);
        if (columns == ColumnSets.WHOLE) {
          uses.merge(new Use(user, privilege, node, Evidence.ANY), at, EvidenceBuilder::later);
        } else {
          for (int column : access.columnSets().ordinals(columns)) {
            uses.merge(new Use(user, privilege, node, column), at, EvidenceBuilder::later);
          }
        }
        boolean further = access.tree().is(node, NodeFact.INVOKER);
        if (further && access.tree().kind(node) == NodeKind.VIEW && known.add(node)) {
          open.add(node);
        }
      }
    }
  }

  private static Instant later(Instant one, Instant other) {
    return one.isAfter(other) ? one : other;
  }

  /** All of it; null when nothing was watched. */
  public Evidence build() {
    return from == null
        ? null
        : new Evidence(
            from,
            to,
            Map.copyOf(uses),
            Map.copyOf(seen),
            statements,
            unread,
            List.copyOf(examples),
            Map.copyOf(refused));
  }
}
