package fiador.cli.ask;

import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Tracer;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.HoldingRows;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Shown;
import fiador.report.text.HoldingText;
import fiador.report.text.HoldingWays;
import java.io.IOException;
import java.util.List;

public final class HoldersCommand extends Asking {
  String object;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    options.parameter(
        "OBJECT[.COLUMN]",
        value -> object = value,
        "A table, view, sequence, routine, schema or database; or a column.");
  }

  @Override
  public String[] description() {
    return new String[] {"Everybody who holds something on an object, in one list."};
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Examples:",
      "  fiador holders billing.customers",
      "  fiador holders billing.customers.iban     one column",
      "  fiador holders billing                    the schema itself"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    Access access = access();
    Lookup.Found found = thing(access, object, 0, true);
    if (!found.ok()) {
      throw new BadInput(found.problem());
    }
    sayUnread(access);
    List<Holding> rows = new Holders(access, clock).of(found.id());
    if (found.column() >= 0) {
      rows =
          rows.stream()
              .filter(row -> (access.rules().columnPrivileges() & row.privilege().bit()) != 0)
              .filter(row -> row.columns() == null || row.columns().get(found.column()))
              .toList();
    }
    if (format == Format.TEXT) {
      Tracer tracer = new Tracer(access, clock);
      out.print(
          new HoldingText(access, tracer, width(), clock.instant())
              .holders(found.id(), found.column(), rows));
      sayDifference(change -> change.node() == found.id());
    } else {
      HoldingWays ways =
          new HoldingWays(access, new Tracer(access, clock), new Shown(access, false));
      HoldingRows contract =
          HoldingRows.withWays(access, clock.instant(), ways::of, rows.size(), format);
      try (RowWriter writer = RowWriter.to(out, format, contract.fields())) {
        for (Holding row : rows) {
          writer.row(contract.row(row));
        }
      }
    }
    return rows.isEmpty() ? Exit.NO : Exit.YES;
  }
}
