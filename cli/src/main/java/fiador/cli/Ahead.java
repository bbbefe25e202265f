package fiador.cli;

import fiador.columns.HeapColumns;
import fiador.effects.Tracer;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.PrincipalKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.AccessColumns;
import fiador.grants.ColumnSets;
import fiador.grants.Membership;
import fiador.grants.Origin;
import fiador.grants.Terms;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import java.time.Clock;
import java.time.Instant;
import java.util.Objects;
import java.util.Set;

/**
 * Loads what answers a question while the command line is still being read: half the time of a
 * short answer goes into the one, half into the other, and most machines can do both at once. It
 * answers a question about an estate of one table, and nobody waits for it.
 */
final class Ahead {
  private static final Set<String> ANSWERS = Set.of("trace", "holders", "holdings");

  private Ahead() {}

  /** Begins, where the command is one that will need it. */
  static void begin(String command) {
    if (ANSWERS.contains(command)) {
      Thread ahead = new Thread(Ahead::answer, "ahead");
      ahead.setDaemon(true);
      ahead.start();
    }
  }

  static void answer() {
    AccessBuilder builder = new AccessBuilder();
    builder.estate().principal(PrincipalKind.USER, "U", 0, None.NODE);
    builder.estate().principal(PrincipalKind.ROLE, "R", 0, None.NODE);
    builder.estate().node(None.NODE, NodeKind.SERVER, "s", None.PRINCIPAL);
    builder.estate().node(0, NodeKind.SCHEMA, "S", None.PRINCIPAL);
    builder.estate().node(1, NodeKind.TABLE, "T", None.PRINCIPAL);
    builder.estate().column("A").type(ColumnType.TEXT);
    builder.member(1, 2, Membership.PLAIN, None.PRINCIPAL);
    Terms terms = Terms.of(Privilege.SELECT.bit(), 0);
    builder.grant(2, 2, terms, ColumnSets.WHOLE, None.PRINCIPAL);
    String kind = KnownHouses.kinds().get(0);
    Origin about = new Origin("s", kind, "2", Instant.EPOCH);
    HouseRules rules = Objects.requireNonNull(KnownHouses.newest(kind), "a known kind");
    HeapColumns columns = new HeapColumns();
    Access built = builder.build(about, rules);
    AccessColumns.put(built, AccessColumns.Extents.of(built), columns);
    Access access = AccessColumns.take(columns);
    new Tracer(access, Clock.systemUTC()).trace(1, Privilege.SELECT, 2, None.COLUMN, 1);
  }
}
