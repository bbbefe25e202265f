package fiador.cli.ask;

import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
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
import fiador.report.text.TraceText;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

public final class TraceCommand extends Asking {
  String user;
  String privilege;
  String object;
  int paths = 5;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    options.parameter("USER", value -> user = value, "A user, or a role.");
    options.parameter("PRIVILEGE", value -> privilege = value, "Such as select or usage.");
    options.parameter(
        "OBJECT[.COLUMN]",
        value -> object = value,
        "A table, view, sequence, routine, schema or database; or a column.");
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
      "  fiador trace telemetry usage metering"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
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
    if (format == Format.TEXT) {
      out.print(new TraceText(access, width(), clock.instant()).text(trace));
      sayDifference(
          change ->
              change.user() == who && change.node() == found.id() && change.privilege() == wanted);
    } else {
      Map<String, Object> document = TraceDocument.of(access, trace, clock.instant());
      if (format == Format.JSON) {
        RowWriter.document(out, document);
      } else {
        try (RowWriter writer = RowWriter.to(out, format, List.copyOf(document.keySet()))) {
          writer.row(document);
        }
      }
    }
    return trace.works() ? Exit.YES : Exit.NO;
  }
}
