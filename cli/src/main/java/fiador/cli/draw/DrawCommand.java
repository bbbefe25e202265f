package fiador.cli.draw;

import fiador.changes.Gap;
import fiador.cli.shell.Asking;
import fiador.cli.shell.Compared;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.charter.Charter;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.pictures.BoxTree;
import fiador.report.pictures.Figure;
import fiador.report.pictures.Folding;
import fiador.report.pictures.GapFigure;
import fiador.report.pictures.Matrix;
import fiador.report.pictures.MatrixText;
import fiador.report.pictures.Picture;
import fiador.report.pictures.RoleFigure;
import fiador.report.pictures.ThingFigure;
import fiador.report.pictures.UserFigure;
import fiador.work.charters.Charters;
import fiador.work.settling.Task;
import java.io.IOException;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;

/** Draws roles, what a user holds, who gets to a thing, a matrix, or a change. */
public final class DrawCommand extends Asking {
  private final Canvas canvas = new Canvas();
  private final MatrixChoice choice = new MatrixChoice();
  private String what = "";
  private @Nullable String named;
  private @Nullable String around;
  private Path folder = Path.of("");
  private @Nullable String server;
  private boolean drop;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    options.parameter(
        "WHAT",
        value -> what = value,
        "roles, matrix or gap; or a user, a role, a thing or its column.");
    options.optional(
        "NAME",
        value -> named = value,
        "A name that could be taken for something else, with \"user\", \"role\" or \"thing\" before it.");
    options.option(
        "--around", "ROLE", value -> around = value, "roles: only those around this one.");
    choice.options(options);
    options.charter(value -> folder = value);
    options.option("--server", "NAME", value -> server = value, "gap: a server of the charter.");
    options.flag(
        "--drop",
        given -> drop = given,
        "gap: users and roles that the charter governs and does not list go too.");
    canvas.options(options);
  }

  @Override
  protected void formats(Options options) {
    // a picture's form is that of its file
  }

  @Override
  public boolean isPaged() {
    return super.isPaged() && canvas.file() == null;
  }

  @Override
  public String[] description() {
    return new String[] {
      "A picture of roles, of what a user holds, of who gets to a thing, of who can do what where, or of a change.",
      "Into a file with --to; else as text, here."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "What is alike is drawn as one, such as \"14 users\" or \"every table in billing, 41\"; --full draws each.",
      "",
      "Examples:",
      "  fiador draw ines.duarte --to ines.svg          what she holds, and through what",
      "  fiador draw billing.customers --to who.png     everybody who gets there",
      "  fiador draw roles --to roles.pdf --print       the roles, for paper",
      "  fiador draw roles --around leak_analyst        one role, as text",
      "  fiador draw matrix --to matrix.svg --dark      users by schemas",
      "  fiador draw matrix --of roles --by tables --schema billing",
      "  fiador draw gap --to change.svg                what a change gives and takes",
      "  fiador draw gap --suppose \"ines.duarte holds billing_read\""
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    canvas.check();
    if (named == null && what.equalsIgnoreCase("gap")) {
      return drawn(gap(), "no difference for anybody: there is nothing to draw");
    }
    Access access = access();
    sayUnread(access);
    if (named == null && what.equalsIgnoreCase("matrix")) {
      return matrix(choice.matrix(access, clock));
    }
    return drawn(
        figure(access), "nobody gets there, and nothing is held: there is nothing to draw");
  }

  private Figure figure(Access access) throws BadInput {
    boolean roles = named == null && what.equalsIgnoreCase("roles");
    if (around != null && !roles) {
      throw new BadInput("--around goes with roles: fiador draw roles --around " + around);
    }
    if (roles) {
      return around == null
          ? RoleFigure.all(access, clock.instant())
          : RoleFigure.around(access, role(access, around), clock.instant());
    }
    if (named != null && what.equalsIgnoreCase("user")) {
      int user = principal(access, named);
      if (!access.principals().isUser(user)) {
        throw new BadInput(named + " is a role and no user: fiador draw " + named);
      }
      return UserFigure.of(access, user, clock);
    }
    if (named != null && what.equalsIgnoreCase("role")) {
      return RoleFigure.around(access, role(access, named), clock.instant());
    }
    if (named != null && !what.equalsIgnoreCase("thing")) {
      throw new BadInput(
          "\"" + what + "\" is none of user, role and thing, which may stand before a name");
    }
    String name = named == null ? what : named;
    Lookup.Found somebody = new Lookup(access).principal(name);
    if (named == null && somebody.ok()) {
      return access.principals().isUser(somebody.id())
          ? UserFigure.of(access, somebody.id(), clock)
          : RoleFigure.around(access, somebody.id(), clock.instant());
    }
    Lookup.Found found = thing(access, name, 0, true);
    if (!found.ok()) {
      throw new BadInput(
          named == null && !name.contains(".") ? somebody.problem() : found.problem());
    }
    return ThingFigure.of(access, found.id(), found.column(), clock);
  }

  private static int role(Access access, String name) throws BadInput {
    int role = principal(access, name);
    if (access.principals().isUser(role)) {
      throw new BadInput(name + " is a user; what they hold: fiador draw " + name);
    }
    return role;
  }

  private Figure gap() throws Refusal, IOException {
    if (isSupposing()) {
      access();
      Gap supposed = supposition();
      return GapFigure.of(supposed.outcome().after(), supposed.effects(), clock.instant());
    }
    Charter charter = Charters.read(folder);
    Compared compared = new Compared(charter, folder, from, server);
    Access before = compared.before(surveys(), clock, this::note);
    Gap gap = new Task(folder, charter, compared.entry(), drop, clock).gap(before);
    return GapFigure.of(gap.outcome().after(), gap.effects(), clock.instant());
  }

  private int drawn(Figure figure, String nothing) throws BadInput, IOException {
    if (figure.lines().isEmpty()) {
      say(nothing);
      return Exit.NO;
    }
    Figure shown = canvas.full() ? figure : Folding.toFit(figure);
    if (canvas.file() == null) {
      out.print(BoxTree.of(shown));
    } else {
      out.println(canvas.write(Picture.of(shown, canvas.theme(), canvas.size())));
    }
    return Exit.YES;
  }

  private int matrix(Matrix matrix) throws BadInput, IOException {
    if (matrix.rows().isEmpty()) {
      say("nobody holds anything there: there is nothing to draw");
      return Exit.NO;
    }
    if (canvas.file() == null) {
      out.print(MatrixText.of(matrix, width()));
    } else {
      out.println(canvas.write(Picture.of(matrix, canvas.theme(), canvas.size())));
    }
    return Exit.YES;
  }
}
