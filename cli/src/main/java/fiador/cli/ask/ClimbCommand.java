package fiador.cli.ask;

import fiador.changes.Gap;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Step;
import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.climb.Climb;
import fiador.grants.Access;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.text.ClimbText;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

public final class ClimbCommand extends Asking {
  String user;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    options.parameter("USER", value -> user = value, "A user or a role.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "What a user could gain by their own means: roles it may give itself, secrets it may set,",
      "tables of accounts it may write. The shortest ladder to each, step by step."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Nothing is tried, and no fault of the server is used. Exit code 1 when there is a ladder.",
      "",
      "Examples:",
      "  fiador climb marta.vale"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    Access access = access();
    int who = principal(access, user);
    Climb.Result result = new Climb(access).of(who);
    ClimbText text = new ClimbText(access, width(), clock.instant());
    if (format == Format.TEXT) {
      out.print(text.text(result, gained(access, who, result)));
      sayDifference(change -> change.user() == who);
    } else {
      try (RowWriter writer = RowWriter.to(out, format, ClimbText.FIELDS)) {
        for (Map<String, Object> row : text.rows(result)) {
          writer.row(row);
        }
      }
    }
    boolean climbs = result.administrator() != null || !result.ladders().isEmpty();
    return climbs ? Exit.NO : Exit.YES;
  }

  /** What the user would hold with all that it can give itself; null for nothing. */
  private Gap gained(Access access, int who, Climb.Result result) {
    List<Step> steps = new ArrayList<>();
    for (Climb.Ladder ladder : result.ladders()) {
      String role = access.principals().name(ladder.gained());
      steps.add(new GiveRole(role, access.principals().name(who)));
    }
    return steps.isEmpty() ? null : Gap.of(access, steps, clock);
  }
}
