package fiador.cli.tidy;

import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.policies.Seeing;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.repairs.Sever;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.text.SeverText;
import fiador.work.charters.Dialects;
import fiador.work.charters.Scripts;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Locale;

public final class SeverCommand extends Asking {
  String user;
  String privilege;
  String object;
  Path script;

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter("USER", value -> user = value, "A user or a role.");
    options.parameter("PRIVILEGE", value -> privilege = value, "Such as select or update.");
    options.parameter("OBJECT[.COLUMN]", value -> object = value, "On what.");
    options.option(
        "--script",
        "FILE",
        Path.class,
        value -> script = value,
        "Writes the statements of the best way there.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "The revocations that take a privilege away from a user with the least damage, and who else they",
      "hurt; then other ways."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "What others lose counts ten times as much as what the user loses besides. Nothing is run.",
      "Exit code 1 when the user does not hold it, or no revocation takes it away.",
      "",
      "Examples:",
      "  fiador sever marta.vale update billing.invoices",
      "  fiador sever ines.duarte select billing.customers.tariff --script take.sql"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    Privilege wanted = Privilege.named(privilege);
    if (wanted == null) {
      throw new BadInput("there is no privilege " + privilege);
    }
    Access access = access();
    int who = principal(access, user);
    Lookup.Found found = thing(access, object, wanted.bit(), true);
    if (!found.ok()) {
      throw new BadInput(found.problem());
    }
    Sever sever = new Sever(access, clock);
    Sever.Result result = sever.of(who, wanted, found.id(), found.column());
    int safe = new Seeing(access).safeViewOf(found.id());
    if (!result.held() && safe >= 0) {
      String column = found.column() < 0 ? "" : access.tree().column(found.id(), found.column());
      say("note: " + object + " is closed, its safe view is meant: " + access.tree().path(safe));
      result =
          sever.of(
              who, wanted, safe, found.column() < 0 ? -1 : access.tree().columnNamed(safe, column));
    } else if (safe >= 0 && sever.of(who, wanted, safe, None.COLUMN).held()) {
      say(
          "note: "
              + object
              + " is also read through its safe view: fiador sever "
              + user
              + " "
              + privilege
              + " "
              + access.tree().path(safe));
    }
    var sql = Dialects.statements(Reviewing.folderOf(from), access);
    SeverText text = new SeverText(access, width(), clock.instant(), sql);
    if (format == Format.TEXT) {
      String what = wanted.text().toUpperCase(Locale.ROOT) + " on " + object;
      out.print(text.text(who, what, result));
    } else {
      try (RowWriter writer = RowWriter.to(out, format, SeverText.FIELDS)) {
        for (int i = 0; i < result.ways().size(); i++) {
          writer.row(text.row(i + 1, result.ways().get(i)));
        }
      }
    }
    if (script != null && !result.ways().isEmpty()) {
      Scripts.write(
          script, Reviewing.folderOf(from), access, result.ways().get(0).gap().plan().steps());
    }
    return result.ways().isEmpty() ? Exit.NO : Exit.YES;
  }
}
