package fiador.cli.ask;

import fiador.across.Atlas;
import fiador.changes.wanted.Accounts;
import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.People;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.SideBySide;
import fiador.effects.StateCounts;
import fiador.effects.Tracer;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.HoldingRows;
import fiador.report.rows.RowWriter;
import fiador.report.rows.SideBySideRows;
import fiador.report.shown.Shown;
import fiador.report.text.BesideText;
import fiador.report.text.HoldingText;
import fiador.report.text.HoldingWays;
import fiador.report.text.SideBySideText;
import fiador.work.charters.Charters;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

public final class HoldingsCommand extends Asking {
  /** A part has that many users at least. */
  private static final int WORTH_IT = 200;

  private final Narrowing narrowing = new Narrowing();
  String user;
  String named;
  String beside;
  String person;
  private final People people = new People();
  boolean everyone;
  boolean system;
  boolean compact;
  boolean full;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    options.optional(
        "USER", value -> user = value, "A user, or a role; or PUBLIC, what everybody holds.");
    options.optional(
        "NAME", value -> named = value, "The name, where \"user\" or \"role\" stands before it.");
    options.flag("--everyone", given -> everyone = given, "All users.");
    options.option(
        "--beside",
        "OTHER",
        value -> beside = value,
        "What only the one holds, and what only this other user or role.");
    options.option(
        "--person",
        "NAME",
        value -> person = value,
        "Somebody as all their accounts on all servers: by key or name in the list that --people",
        "gives; without one, all accounts of that name.");
    people.options(options);
    neighbours(options);
    narrowing.things(options);
    options.flag("--system", given -> system = given, "The server's own schemas as well.");
    options.flag(
        "--compact",
        given -> compact = given,
        "A right that comes down from a container is listed on the container only.");
    options.flag(
        "--full", given -> full = given, "Each line of a long list; else it is summed up.");
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
      "  fiador holdings ines.duarte --schema billing --without public",
      "  fiador holdings ines.duarte --beside rui.teles",
      "  fiador holdings role leak_analyst --format csv",
      "  fiador holdings --person 'Inês Duarte' --people people.csv --across surveys",
      "  fiador holdings --everyone --from app.survey.jsonl --format jsonl"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (person != null && user == null && !everyone && beside == null) {
      return person();
    } else if (person != null) {
      throw new BadInput("--person is somebody as all their accounts; leave out the rest");
    } else if (everyone == (user != null)) {
      throw new BadInput("name a user, or give --everyone");
    } else if (everyone && beside != null) {
      throw new BadInput("--beside compares two, and --everyone is all");
    }
    Access access = access();
    sayUnread(access);
    if (everyone) {
      everyone(access);
      return Exit.YES;
    }
    WantedHoldings wanted = wanted(access);
    int id = asked(access);
    if (beside != null) {
      sideBySide(access, wanted, id, principal(access, beside));
    } else {
      one(access, wanted, id);
    }
    return Exit.YES;
  }

  private int person() throws Refusal, IOException {
    Path folder = charted();
    Accounts accounts = folder == null ? Accounts.SAME : Charters.accounts(folder);
    PersonHoldings asked = new PersonHoldings(person, people.read(), accounts, clock);
    Atlas atlas = atlas();
    for (Access each : atlas.all()) {
      sayUnread(each);
    }
    int found = asked.write(atlas, (at, id) -> wanted(at).of(id), full, format, width(), out);
    return found == 0 ? Exit.NO : Exit.YES;
  }

  private int asked(Access access) throws BadInput {
    boolean role = user.equalsIgnoreCase("role");
    String name = named == null ? user : named;
    if (named != null && !role && !user.equalsIgnoreCase("user")) {
      throw new BadInput("\"" + named + "\" is one name too many; one user or role at a time");
    }
    if (name.equalsIgnoreCase("public")) {
      return Principals.PUBLIC;
    }
    int id = principal(access, name);
    if (named != null && role == access.principals().isUser(id)) {
      throw new BadInput(name + " is a " + access.principals().kind(id).text() + " and no " + user);
    }
    return id;
  }

  private void one(Access access, WantedHoldings wanted, int id) throws IOException {
    List<Holding> rows = wanted.of(id);
    if (format == Format.TEXT) {
      HoldingText text = text(access);
      out.print(full ? text.holdings(id, rows) : text.summedUp(id, rows));
      out.print(new BesideText(access).of(id, width()));
      sayDifference(change -> change.user() == id && wanted.includes(change.node()));
      return;
    }
    HoldingWays ways = new HoldingWays(access, new Tracer(access, clock), new Shown(access, false));
    HoldingRows contract =
        HoldingRows.withWays(access, clock.instant(), ways::of, rows.size(), format);
    try (RowWriter writer = RowWriter.to(out, format, contract.fields())) {
      write(rows, contract, writer);
    }
  }

  private static void write(List<Holding> list, HoldingRows rows, RowWriter writer)
      throws IOException {
    for (Holding holding : list) {
      writer.row(rows.row(holding));
    }
  }

  private void sideBySide(Access access, WantedHoldings wanted, int first, int second)
      throws IOException {
    List<SideBySide.Line> lines = SideBySide.of(access.tree(), wanted.of(first), wanted.of(second));
    if (format == Format.TEXT) {
      out.print(
          new SideBySideText(access, new Tracer(access, clock), width(), clock.instant())
              .text(first, second, lines));
      return;
    }
    try (RowWriter writer = RowWriter.to(out, format, SideBySideRows.FIELDS)) {
      for (SideBySide.Line line : lines) {
        writer.row(SideBySideRows.row(access, first, second, line));
      }
    }
  }

  /** Users have nothing to do with each other: a part of them for each processor. */
  private Map<Integer, StateCounts> counted(Access access) throws BadInput {
    int[] users =
        IntStream.range(1, access.principals().size())
            .filter(access.principals()::isUser)
            .toArray();
    int parts = Math.min(Runtime.getRuntime().availableProcessors(), 1 + users.length / WORTH_IT);
    List<WantedHoldings> each = new ArrayList<>();
    for (int i = 0; i < parts; i++) {
      each.add(wanted(access));
    }
    StateCounts[] counts = new StateCounts[users.length];
    IntStream.range(0, parts)
        .parallel()
        .forEach(
            part -> {
              for (int i = part; i < users.length; i += parts) {
                counts[i] = each.get(part).counts(users[i]);
              }
            });
    Map<Integer, StateCounts> byUser = new LinkedHashMap<>();
    for (int i = 0; i < users.length; i++) {
      byUser.put(users[i], counts[i]);
    }
    return byUser;
  }

  private HoldingText text(Access access) {
    return new HoldingText(access, () -> new Tracer(access, clock), width(), clock.instant());
  }

  private WantedHoldings wanted(Access access) throws BadInput {
    return new WantedHoldings(access, narrowing, new Holdings(access, clock, system, compact));
  }

  private void everyone(Access access) throws BadInput, IOException {
    if (format == Format.TEXT) {
      out.print(text(access).everyone(counted(access)));
      return;
    }
    WantedHoldings wanted = wanted(access);
    HoldingRows rows = new HoldingRows(access, clock.instant());
    try (RowWriter writer = RowWriter.to(out, format, rows.fields())) {
      for (int id = 1; id < access.principals().size(); id++) {
        if (access.principals().isUser(id)) {
          write(wanted.of(id), rows, writer);
        }
      }
    }
  }
}
