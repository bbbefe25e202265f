package fiador.cli.ask;

import fiador.across.Inflows;
import fiador.across.Inflows.Inflow;
import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.policies.Bypass;
import fiador.policies.Sealing;
import fiador.policies.UnderName;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.text.BypassText;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

public final class BypassCommand extends Asking {
  String table;

  @Override
  public void options(Options options) {
    super.options(options);
    neighbours(options);
    options.optional("TABLE", value -> table = value, "Only this table.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Who gets round row and mask policies: reads hidden rows or clear values, because the table itself",
      "is open to them, or a view that reads it with somebody else's rights. And who reads such a table,",
      "or a sealed one, from another server, whose foreign table hides who asks."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "The views that were made from the policies are the intended way and not listed.",
      "Exit code 1 when somebody gets round a policy who is no superuser and does not own the table.",
      "",
      "Examples:",
      "  fiador bypass                       every table with policies",
      "  fiador bypass billing.customers"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    Access access = access();
    int only = -1;
    if (table != null) {
      Lookup.Found found = thing(access, table, Privilege.SELECT.bit(), false);
      if (!found.ok()) {
        throw new BadInput(found.problem());
      }
      // a name that a view has taken means the table
      only = UnderName.tables(access).getOrDefault(found.id(), found.id());
    }
    int wanted = only;
    List<Bypass.Way> ways =
        new Bypass(access, clock)
            .ways().stream().filter(way -> wanted < 0 || way.table() == wanted).toList();
    Map<Integer, List<Inflow>> inflows = inflows(access, wanted);
    BypassText text = new BypassText(access, width(), clock.instant());
    if (format == Format.TEXT) {
      out.print(text.text(ways, inflows));
    } else {
      try (RowWriter writer = RowWriter.to(out, format, BypassText.FIELDS)) {
        for (Bypass.Way way : ways) {
          writer.row(text.row(way));
        }
        for (Map.Entry<Integer, List<Inflow>> table : inflows.entrySet()) {
          for (Inflow inflow : table.getValue()) {
            writer.row(text.row(table.getKey(), inflow));
          }
        }
      }
    }
    boolean anybody =
        ways.stream()
            .anyMatch(way -> way.users().size() > way.powerful().size() || !way.owners().isEmpty());
    return anybody || !inflows.isEmpty() ? Exit.NO : Exit.YES;
  }

  /** Who reads tables with policies or seals from other servers. */
  private Map<Integer, List<Inflow>> inflows(Access access, int only) throws Refusal, IOException {
    Inflows inflows = new Inflows(atlas(access), clock);
    Map<Integer, List<Inflow>> found = new LinkedHashMap<>();
    boolean cut = false;
    for (int table : new Sealing(access, clock).guarded()) {
      List<Inflow> ways = only < 0 || only == table ? inflows.to(access, table) : List.of();
      if (!ways.isEmpty()) {
        found.put(table, ways);
      }
      cut |= inflows.isCut();
    }
    if (cut) {
      note("there are more ways from other servers than are followed");
    }
    return found;
  }
}
