package fiador.cli.ask;

import fiador.across.Atlas;
import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.estate.Nearest;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.lists.Lists;
import fiador.report.lists.Source;
import fiador.report.rows.Format;
import fiador.report.shown.Shown;
import fiador.work.charters.Dating;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

public final class ListCommand extends Asking {
  private final Narrowing narrowing = new Narrowing();
  String what;
  boolean system;
  boolean dated;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    neighbours(options);
    options.parameter("WHAT", value -> what = value, String.join(", ", Lists.NAMES) + ".");
    narrowing.given(options);
    narrowing.things(options);
    options.flag(
        "--dated", given -> dated = given, "Of grants, since when, as far as the ledger knows.");
    options.flag("--system", given -> system = given, "The server's own things as well.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "What there is, one table each: users, roles, members, grants as the server keeps them, powers,",
      "objects, policies, seals, tables that are really elsewhere (foreign) and as whom one goes there."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Where a name stands, * is any characters and ? is one.",
      "",
      "Examples:",
      "  fiador list grants --to billing_read        what that role was given, and by whom",
      "  fiador list grants --on 'billing.*' --without public",
      "  fiador list grants --to billing_read --dated    and since when",
      "  fiador list members --role leak_analyst     who holds it, directly or through what",
      "  fiador list foreign                         tables whose rows another server holds",
      "  fiador list powers                          who may do what on the whole server"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    String list = Lists.nameOf(what);
    if (list == null) {
      throw new BadInput(
          "there is no list of "
              + what
              + Nearest.hint(what, Lists.NAMES.stream())
              + "; the lists are "
              + String.join(", ", Lists.NAMES));
    }
    if (dated && !list.equals("grants")) {
      throw new BadInput("--dated is for list grants");
    }
    narrowing.check(list, Lists.narrowedBy(list));
    Access access = access();
    sayUnread(access);
    boolean text = format == Format.TEXT;
    Source source =
        new Source(
            access,
            narrowing.selection(access),
            text ? Shown.brief(access) : new Shown(access, false),
            clock.instant(),
            system,
            dated ? Dating.of(folder(), access) : null,
            list.equals("mappings") ? atlas(access) : new Atlas(List.of()));
    return Lists.write(list, source, format, width(), out) == 0 ? Exit.NO : Exit.YES;
  }

  /** The charter whose ledger knows. */
  private Path folder() {
    return from != null && Files.isDirectory(Path.of(from)) ? Path.of(from) : Path.of("");
  }
}
