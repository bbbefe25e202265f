package fiador.cli.ask;

import fiador.across.Inflows;
import fiador.across.Inflows.Inflow;
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
import fiador.report.lists.Lists;
import fiador.report.lists.Source;
import fiador.report.rows.Format;
import fiador.report.rows.HoldingRows;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Shown;
import fiador.report.text.AnyWayText;
import fiador.report.text.HolderText;
import fiador.report.text.HoldingWays;
import fiador.report.text.InflowText;
import fiador.selection.Selection;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

public final class HoldersCommand extends Asking {
  String object;
  private String named;
  private boolean direct;
  private boolean inside;
  private boolean full;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    neighbours(options);
    options.parameter(
        "OBJECT[.COLUMN]",
        value -> object = value,
        "A table, view, sequence, routine, schema or database; or a column.");
    options.optional(
        "NAME",
        value -> named = value,
        "The name of a role or power, where \"role\" or \"power\" stands before it.");
    options.flag(
        "--inside", given -> inside = given, "Of a schema or database: what is in it as well.");
    options.flag(
        "--direct",
        given -> direct = given,
        "Only who has a right on it; else also who gets its values through views, routines or copies.");
    options.flag(
        "--full", given -> full = given, "Each user of a long list; else it is summed up.");
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
      "  fiador holders billing                    the schema itself",
      "  fiador holders billing --inside           and what is in it, summed up by user",
      "  fiador holders role leak_analyst          its members, directly or through what",
      "  fiador holders power superuser"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    Access access = access();
    if (named != null) {
      return listed(access);
    }
    Lookup.Found found = thing(access, object, 0, true);
    if (!found.ok()) {
      throw new BadInput(found.problem());
    }
    sayUnread(access);
    if (inside) {
      return inside(access, found);
    }
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
    List<Inflow> inflows = direct ? List.of() : inflows(access, found.id(), found.column());
    InflowText elsewhere = new InflowText(access, width());
    if (format == Format.TEXT) {
      HolderText text = new HolderText(access, () -> new Tracer(access, clock), width(), clock);
      out.print(
          full
              ? text.each(found.id(), found.column(), rows)
              : text.summedUp(found.id(), found.column(), rows));
      out.print(other.text(found.id(), ways));
      out.print(elsewhere.text(found.id(), inflows));
      String aside = new Shown(access, true).aside(found.id());
      if (aside != null) {
        out.println("\n" + aside);
      }
      sayDifference(change -> change.node() == found.id());
    } else {
      HoldingWays through =
          new HoldingWays(access, new Tracer(access, clock), new Shown(access, false));
      HoldingRows contract =
          HoldingRows.withWays(access, clock.instant(), through::of, rows.size(), format);
      try (RowWriter writer = RowWriter.to(out, format, fields(contract, ways, inflows))) {
        for (Holding row : rows) {
          writer.row(contract.row(row));
        }
        for (AnyWay.Way way : ways) {
          for (AnyWay.Reader reader : way.readers()) {
            writer.row(other.row(found.id(), way, reader));
          }
        }
        for (Inflow inflow : inflows) {
          for (Inflows.Reader reader : inflow.readers()) {
            writer.row(elsewhere.row(found.id(), inflow, reader));
          }
        }
      }
    }
    return rows.isEmpty() && ways.isEmpty() && inflows.isEmpty() ? Exit.NO : Exit.YES;
  }

  /** Who holds a role or a power. */
  private int listed(Access access) throws BadInput, IOException {
    boolean role = object.equalsIgnoreCase("role");
    if (!role && !object.equalsIgnoreCase("power")) {
      throw new BadInput("\"" + named + "\" is one name too many; one object at a time");
    }
    Selection selection = new Selection(access);
    if (role) {
      selection.role(named);
    } else {
      selection.power(named);
    }
    boolean text = format == Format.TEXT;
    Shown shown = text ? Shown.brief(access) : new Shown(access, false);
    Source source = new Source(access, selection, shown, clock.instant(), true);
    long rows = Lists.write(role ? "members" : "powers", source, format, width(), out);
    return rows == 0 ? Exit.NO : Exit.YES;
  }

  /** What is held on a container and on all that is in it. */
  private int inside(Access access, Lookup.Found found) throws BadInput, IOException {
    if (access.tree().kind(found.id()).isObject()) {
      throw new BadInput(
          object + " is a " + access.tree().kind(found.id()).text() + ", with nothing inside");
    }
    Holders holders = new Holders(access, clock);
    List<Holding> rows = new ArrayList<>();
    for (int node = found.id(); node < access.tree().size(); node++) {
      if (node == found.id() || access.tree().isInside(node, found.id())) {
        rows.addAll(holders.of(node));
      }
    }
    if (format == Format.TEXT) {
      HolderText text = new HolderText(access, () -> new Tracer(access, clock), width(), clock);
      out.print(full ? text.inside(found.id(), rows) : text.insideSummedUp(found.id(), rows));
    } else {
      HoldingRows contract = new HoldingRows(access, clock.instant());
      try (RowWriter writer = RowWriter.to(out, format, contract.fields())) {
        for (Holding row : rows) {
          writer.row(contract.row(row));
        }
      }
    }
    return rows.isEmpty() ? Exit.NO : Exit.YES;
  }

  /** Who reads it from other servers. */
  private List<Inflow> inflows(Access access, int node, int column) throws Refusal, IOException {
    Inflows inflows = new Inflows(atlas(access), clock);
    List<Inflow> all = inflows.to(access, node);
    if (inflows.isCut()) {
      note("there are more ways from other servers than are followed");
    }
    return all.stream().filter(each -> column < 0 || each.columns().get(column)).toList();
  }

  private static List<String> fields(
      HoldingRows contract, List<AnyWay.Way> ways, List<Inflow> inflows) {
    List<String> fields = new ArrayList<>(contract.fields());
    if (!ways.isEmpty()) {
      fields.addAll(AnyWayText.FIELDS);
    }
    if (!inflows.isEmpty()) {
      fields.addAll(InflowText.FIELDS);
    }
    return fields;
  }
}
