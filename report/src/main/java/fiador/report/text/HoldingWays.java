package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.None;
import fiador.grants.Access;
import fiador.report.shown.Shown;

/** Through what something is held, in a few words: the first way of those there are. */
public final class HoldingWays {
  private final Tracer tracer;
  private final Ways ways;

  /** With names as they are shown there. */
  public HoldingWays(Access access, Tracer tracer, Shown shown) {
    this.tracer = tracer;
    this.ways = new Ways(access, shown);
  }

  /** The way to one holding; empty where there is none. Cost: one trace. */
  public String of(Holding row) {
    int column = row.columns() == null ? None.COLUMN : row.columns().nextSetBit(0);
    Trace trace = tracer.trace(row.user(), row.privilege(), row.node(), column, 1);
    return trace.paths().isEmpty() ? "" : ways.oneLine(trace.paths().get(0), row.node());
  }
}
