package fiador.cli.ask;

import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Tracer;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.policies.AnyWay;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.HoldingRows;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Shown;
import fiador.report.text.AnyWayText;
import fiador.report.text.HoldingText;
import fiador.report.text.HoldingWays;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

public final class HoldersCommand extends Asking {
  String object;
  private boolean direct;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    options.parameter(
        "OBJECT[.COLUMN]",
        value -> object = value,
        "A table, view, sequence, routine, schema or database; or a column.");
    options.flag(
        "--direct",
        given -> direct = given,
        "Only who has a right on it; else also who gets its values through views, routines or copies.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Everybody who holds something on an object, and who gets its values without a right on it."
    };
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
    AnyWay anyWay = new AnyWay(access, clock);
    List<AnyWay.Way> ways = direct ? List.of() : anyWay.of(found.id(), found.column());
    AnyWayText other = new AnyWayText(access, anyWay, width());
    if (format == Format.TEXT) {
      Tracer tracer = new Tracer(access, clock);
      out.print(
          new HoldingText(access, tracer, width(), clock.instant())
              .holders(found.id(), found.column(), rows));
      out.print(other.text(found.id(), ways));
      sayDifference(change -> change.node() == found.id());
    } else {
      HoldingWays through =
          new HoldingWays(access, new Tracer(access, clock), new Shown(access, false));
      HoldingRows contract =
          HoldingRows.withWays(access, clock.instant(), through::of, rows.size(), format);
      try (RowWriter writer = RowWriter.to(out, format, fields(contract, ways))) {
        for (Holding row : rows) {
          writer.row(contract.row(row));
        }
        for (AnyWay.Way way : ways) {
          for (AnyWay.Reader reader : way.readers()) {
            writer.row(other.row(found.id(), way, reader));
          }
        }
      }
    }
    return rows.isEmpty() && ways.isEmpty() ? Exit.NO : Exit.YES;
  }

  private static List<String> fields(HoldingRows contract, List<AnyWay.Way> ways) {
    List<String> fields = new ArrayList<>(contract.fields());
    if (!ways.isEmpty()) {
      fields.addAll(AnyWayText.FIELDS);
    }
    return fields;
  }
}
