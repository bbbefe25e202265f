package fiador.cli.sweep;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Shown;
import fiador.report.text.Headline;
import fiador.work.sweeping.Sweeps;
import java.io.IOException;
import java.util.Iterator;
import java.util.List;
import java.util.Map;

/** Asks a sweep; programs get its rows. */
abstract class SweepQuestion extends Sweeping {
  String sweep;
  Format format = Format.TEXT;

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter("SWEEP", value -> sweep = value, "What fiador sweep --into has written.");
    options.format(value -> format = value, "text, json, jsonl, csv or markdown.");
  }

  /** What is asked. */
  abstract Sweeps.Question question() throws Refusal;

  /** The answer for people: its first line, and the rest. */
  abstract Said said(Iterator<Map<String, Object>> rows);

  /**
   * What is said.
   *
   * @param answer the first line
   * @param rest the lines below
   * @param any whether there was anything
   */
  record Said(String answer, String rest, boolean any) {}

  @Override
  final int run(Sweeps engine) throws Refusal, IOException {
    Sweeps.Question question = question();
    return engine.ask(
        sweep, cores, question, (rows, servers) -> told(question.fields(), rows, servers));
  }

  private int told(List<String> fields, Iterator<Map<String, Object>> rows, Sweeps.Servers servers)
      throws IOException {
    if (servers.failed() > 0) {
      note(
          Counted.of(servers.failed(), "server")
              + " could not be read anew by the last sweep; what is said of them is older, or nothing");
    }
    if (format == Format.TEXT) {
      Said said = said(rows);
      String oldest =
          servers.oldest() == null ? "" : ", the oldest survey of " + Shown.time(servers.oldest());
      String origin = Counted.of(servers.known(), "server") + oldest;
      out.print(Headline.of(said.answer(), origin, width()) + "\n" + said.rest());
      return said.any() ? Exit.YES : Exit.NO;
    }
    boolean any = rows.hasNext();
    try (RowWriter writer = RowWriter.to(out, format, fields)) {
      while (rows.hasNext()) {
        writer.row(rows.next());
      }
    }
    return any ? Exit.YES : Exit.NO;
  }
}
