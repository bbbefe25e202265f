package fiador.cli;

import fiador.columns.HeapColumns;
import fiador.effects.Tracer;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.PrincipalKind;
import fiador.estate.Privilege;
import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.AccessColumns;
import fiador.grants.ColumnSets;
import fiador.grants.Membership;
import fiador.grants.Origin;
import fiador.grants.Terms;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import fiador.sqltext.uses.ReadingQuery;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Loads what a command will need while its command line, charter and survey are still being read:
 * half the time of a short answer goes into the one, half into the other, and most machines can do
 * both at once. What it does is thrown away, and nobody waits for it.
 */
final class Ahead {
  private static final Set<String> ANSWERS = Set.of("trace", "holders", "holdings");
  private static final Set<String> OF_THE_LEDGER = Set.of("findings", "history");
  private static final Set<String> OF_STATEMENTS = Set.of("--statement", "--usage");

  private Ahead() {}

  /** What is loaded. */
  private interface Load {
    void now() throws IOException;
  }

  /** Begins, where the command is one that will need something. */
  static void begin(String command, String... args) {
    if (ANSWERS.contains(command)) {
      begin(Ahead::answer);
    }
    if (OF_THE_LEDGER.contains(command)) {
      begin(Ledger::load);
    }
    if (Stream.of(args).anyMatch(OF_STATEMENTS::contains)) {
      begin(Ahead::statement);
    }
  }

  private static void begin(Load load) {
    Thread ahead =
        new Thread(
            () -> {
              try {
                load.now();
              } catch (IOException | RuntimeException | LinkageError failed) {
                // the command meets the same, and tells it
              }
            },
            "ahead");
    ahead.setDaemon(true);
    ahead.start();
  }

  /** Understands a statement. */
  static void statement() {
    ReadingQuery.refusal("select a from s.t where b > 1");
  }

  /** Answers a question about an estate of one table. */
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
