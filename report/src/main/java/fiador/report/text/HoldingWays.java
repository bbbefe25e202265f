package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.Path;
import fiador.effects.Tracer;
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

  /** The way to one holding; empty where there is none. Cost: a search of the roles of its user. */
  public String of(Holding row) {
    Path path = tracer.nearest(row);
    return path == null ? "" : ways.oneLine(path, row.node());
  }
}
