package fiador.cli.ask;

import fiador.across.Atlas;
import fiador.across.Crossing;
import fiador.across.Crossing.Crossed;
import fiador.across.Leg.Answer;
import fiador.changes.Running;
import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.effects.Need;
import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.Nearest;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.exchange.TraceDocument;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Shown;
import fiador.report.text.RefusedTrace;
import fiador.report.text.StatementText;
import fiador.report.text.TraceText;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.needs.StatementNeeds;
import fiador.sqltext.refused.RefusedText;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

public final class TraceCommand extends Asking {
  private static final int LONGEST = 1_000_000;

  String user;
  String privilege;
  String object;
  String error;
  String statement;
  int paths = 5;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    neighbours(options);
    options.parameter("USER", value -> user = value, "A user, or a role.");
    options.optional("PRIVILEGE", value -> privilege = value, "Such as select or usage.");
    options.optional(
        "OBJECT[.COLUMN]",
        value -> object = value,
        "A table, view, sequence, routine, schema or database; or a column.");
    options.option(
        "--error",
        "TEXT",
        value -> error = value,
        "What the server said when it refused something, instead of privilege and object.");
    options.option(
        "--statement",
        "SQL",
        value -> statement = value,
        "A statement instead of privilege and object; - reads it from the standard input.");
    options.option(
        "--paths",
        "N",
        Integer.class,
        value -> paths = value,
        "How many paths to show, the shortest first; all are counted.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Why a user may do something, hop by hop; or why not.",
      "A no comes with its reasons and the smallest grant that would make it a yes.",
      "With --statement everything that a statement needs, each answered. Nothing is run.",
      "Exit code 0 for yes, 1 for no."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Examples:",
      "  fiador trace ines.duarte select billing.invoices",
      "  fiador trace ines.duarte select billing.customers.iban",
      "  fiador trace telemetry usage metering",
      "  fiador trace ines.duarte --statement 'select iban from billing.customers'",
      "  fiador trace ines.duarte --error 'permission denied for table invoices'"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (statement != null) {
      return statement();
    } else if (error != null) {
      return refused();
    } else if (privilege == null || object == null) {
      throw new BadInput(
          "name a privilege and what it is on, or give --statement SQL or --error TEXT");
    }
    Privilege wanted = Privilege.named(privilege);
    if (wanted == null) {
      throw new BadInput(
          "there is no privilege "
              + privilege
              + Nearest.hint(privilege, Arrays.stream(Privilege.values()).map(Privilege::text)));
    }
    Access access = access();
    int who = principal(access, user);
    Lookup.Found found = thing(access, object, wanted.bit(), true);
    if (!found.ok()) {
      Lookup.Found other = new Lookup(access).node(object, 0, true);
      throw new BadInput(
          other.ok()
              ? "there is no "
                  + wanted.text()
                  + " on a "
                  + access.tree().kind(other.id()).text()
                  + " of this server"
              : found.problem());
    }
    if (found.column() >= 0 && (access.rules().columnPrivileges() & wanted.bit()) == 0) {
      throw new BadInput(wanted.text() + " is on whole objects, not on columns");
    }
    Trace trace =
        new Tracer(access, clock)
            .trace(who, wanted, found.id(), found.column(), Math.max(1, paths));
    Crossed crossed = crossed(access, trace);
    if (format == Format.TEXT) {
      out.print(new TraceText(access, width(), clock.instant()).text(trace, crossed));
      sayDifference(
          change ->
              change.user() == who && change.node() == found.id() && change.privilege() == wanted);
    } else {
      Map<String, Object> document = TraceDocument.of(access, trace, clock.instant(), crossed);
      if (format == Format.JSON) {
        RowWriter.document(out, document);
      } else {
        try (RowWriter writer = RowWriter.to(out, format, List.copyOf(document.keySet()))) {
          writer.row(document);
        }
      }
    }
    boolean closed = crossed != null && crossed.answer() == Answer.CLOSED;
    return trace.works() && !closed ? Exit.YES : Exit.NO;
  }

  /** What comes of it on another server; null where it is read here, or nothing is read. */
  private Crossed crossed(Access access, Trace trace) throws Refusal, IOException {
    boolean read = trace.works() && trace.privilege() == Privilege.SELECT;
    if (!read || !new Crossing(access, new Atlas(List.of()), clock).leaves(trace.node())) {
      return null;
    }
    return new Crossing(access, atlas(access), clock)
        .read(trace.user(), trace.node(), trace.column());
  }

  /** Everything a statement needs. */
  private int statement() throws Refusal, IOException {
    if (privilege != null || error != null) {
      throw new BadInput("--statement says itself what it needs; leave out the rest");
    }
    String sql = statement.equals("-") ? standardInput() : statement;
    Access access = access();
    int who = principal(access, user);
    List<Need> needs;
    try {
      needs = StatementNeeds.of(access, sql);
    } catch (NotUnderstood beyond) {
      throw new BadInput("what this statement needs is not known: " + beyond.getMessage());
    }
    Running.Answer answer = new Running(access, clock).of(who, needs);
    Shown shown = format == Format.TEXT ? Shown.brief(access) : new Shown(access, false);
    StatementText text = new StatementText(access, shown, width(), clock);
    if (format == Format.TEXT) {
      out.print(text.text(answer));
      sayDifference(change -> change.user() == who);
    } else if (format == Format.JSON) {
      RowWriter.document(out, text.document(answer));
    } else {
      try (RowWriter writer = RowWriter.to(out, format, StatementText.FIELDS)) {
        for (Map<String, Object> row : text.rowsFor(answer)) {
          writer.row(row);
        }
      }
    }
    return answer.works() ? Exit.YES : Exit.NO;
  }

  private static String standardInput() throws IOException {
    byte[] bytes = System.in.readNBytes(LONGEST + 1);
    if (bytes.length > LONGEST) {
      throw new IOException("the statement is longer than " + LONGEST + " bytes");
    }
    return new String(bytes, StandardCharsets.UTF_8);
  }

  /** Why the server refused something, from what it said. */
  private int refused() throws Refusal, IOException {
    if (privilege != null) {
      throw new BadInput("--error says itself what it is about; leave out privilege and object");
    }
    RefusedText meant =
        RefusedText.read(error)
            .orElseThrow(
                () ->
                    new BadInput(
                        "this is none of what the known servers say when somebody may not do"
                            + " something; name the privilege and the object"));
    Access access = access();
    int who = principal(access, user);
    String name = meant.column() == null ? meant.name() : meant.name() + "." + meant.column();
    Lookup.Found found = thing(access, name, 0, meant.column() != null);
    if (!found.ok()) {
      throw new BadInput("what the server names is not in the survey: " + found.problem());
    }
    long possible = access.rules().privilegesOn(access.tree().kind(found.id()));
    Tracer tracer = new Tracer(access, clock);
    List<Trace> traces = new ArrayList<>();
    for (Privilege each : Privilege.values()) {
      boolean said = meant.privileges().isEmpty() || meant.privileges().contains(each);
      boolean fits = found.column() < 0 || (access.rules().columnPrivileges() & each.bit()) != 0;
      if (said && fits && (possible & each.bit()) != 0) {
        traces.add(tracer.trace(who, each, found.id(), found.column(), Math.max(1, paths)));
      }
    }
    if (format == Format.TEXT) {
      out.print(new RefusedTrace(access, width(), clock.instant()).text(who, found.id(), traces));
    } else {
      List<Map<String, Object>> rows =
          traces.stream().map(trace -> TraceDocument.of(access, trace, clock.instant())).toList();
      Set<String> fields = new LinkedHashSet<>();
      rows.forEach(row -> fields.addAll(row.keySet()));
      try (RowWriter writer = RowWriter.to(out, format, List.copyOf(fields))) {
        for (Map<String, Object> row : rows) {
          writer.row(row);
        }
      }
    }
    return traces.stream().allMatch(Trace::works) ? Exit.YES : Exit.NO;
  }
}
