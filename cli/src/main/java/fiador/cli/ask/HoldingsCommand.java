package fiador.cli.ask;

import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.Tracer;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.HoldingRows;
import fiador.report.rows.RowWriter;
import fiador.report.text.BesideText;
import fiador.report.text.HoldingText;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

public final class HoldingsCommand extends Asking {
  String user;
  boolean everyone;
  boolean system;
  boolean compact;

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional("USER", value -> user = value, "A user, or a role.");
    options.flag("--everyone", given -> everyone = given, "All users.");
    options.flag("--system", given -> system = given, "The server's own schemas as well.");
    options.flag(
        "--compact",
        given -> compact = given,
        "A right that comes down from a container is listed on the container only.");
  }

  @Override
  public String[] description() {
    return new String[] {"All that a user holds, direct and inherited, and whether it works."};
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Examples:",
      "  fiador holdings ines.duarte",
      "  fiador holdings ines.duarte --format csv",
      "  fiador holdings --everyone --from app.survey.jsonl --format jsonl"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (everyone == (user != null)) {
      throw new BadInput("name a user, or give --everyone");
    }
    Access access = access();
    sayUnread(access);
    Holdings holdings = new Holdings(access, clock, system, compact);
    if (format == Format.TEXT) {
      HoldingText text =
          new HoldingText(access, new Tracer(access, clock), width(), clock.instant());
      out.print(everyone ? everyone(access, holdings, text) : one(access, holdings, text));
      return Exit.YES;
    }
    HoldingRows rows = new HoldingRows(access, clock.instant());
    try (RowWriter writer = RowWriter.to(out, format, HoldingRows.FIELDS)) {
      if (everyone) {
        for (int id = 1; id < access.principals().size(); id++) {
          if (access.principals().isUser(id)) {
            write(holdings.of(id), rows, writer);
          }
        }
      } else {
        write(holdings.of(principal(access, user)), rows, writer);
      }
    }
    return Exit.YES;
  }

  private static void write(List<Holding> list, HoldingRows rows, RowWriter writer)
      throws IOException {
    for (Holding holding : list) {
      writer.row(rows.row(holding));
    }
  }

  private String one(Access access, Holdings holdings, HoldingText text) throws BadInput {
    int id = principal(access, user);
    return text.holdings(id, holdings.of(id)) + new BesideText(access).of(id, width());
  }

  private static String everyone(Access access, Holdings holdings, HoldingText text) {
    Map<Integer, List<Holding>> byUser = new LinkedHashMap<>();
    for (int id = 1; id < access.principals().size(); id++) {
      if (access.principals().isUser(id)) {
        byUser.put(id, holdings.of(id));
      }
    }
    return text.everyone(byUser);
  }
}
