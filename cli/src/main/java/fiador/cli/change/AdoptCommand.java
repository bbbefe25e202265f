package fiador.cli.change;

import fiador.changes.Gap;
import fiador.changes.adopting.AdoptedPolicies;
import fiador.changes.adopting.Adoption;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.charter.AdoptionWriter;
import fiador.files.charter.AdoptionWriter.ServerPart;
import fiador.files.charter.Charter;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.shown.FileLink;
import fiador.work.charters.Charters;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

public final class AdoptCommand extends Asking {
  private static final int LEFT_OUT = 40;

  Path folder;
  String url = "";
  String login = "admin";
  boolean everybody;

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter("DIR", Path.class, value -> folder = value, "A new folder for the charter.");
    options.option(
        "--url",
        "URL",
        value -> url = value,
        "The server's address, to be written into the charter.");
    options.flag(
        "--public",
        given -> everybody = given,
        "Adopts what everybody may (PUBLIC) too, and lets the charter decide on it.");
    options.option(
        "--login", "NAME", value -> login = value, "The login to be written into the charter.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Drafts a charter from a survey, so that an estate that is there already starts without a gap.",
      "What every table and view of a schema has in common becomes one sentence."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Examples:",
      "  fiador survey --url ... --login ... --password-env VAR --to app.jsonl",
      "  fiador adopt app-charter --from app.jsonl --url jdbc:postgresql://localhost/app --login admin",
      "  fiador gap --charter app-charter --from app.jsonl"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (format != Format.TEXT) {
      throw new BadInput("adopt writes a charter; it has no other format");
    }
    if (Files.exists(folder) && !isEmpty(folder)) {
      throw new BadInput(folder + " is already there and not empty; name another folder");
    }
    Access access = access();
    String name = access.about().server().replaceAll("[^\\w-]", "_");
    String kind = access.about().kind();
    String address = url.isEmpty() ? "jdbc:" + kind + ":CHANGE_ME" : url;
    Adoption adoption = Adoption.of(access, everybody);
    AdoptionWriter.write(folder, new ServerPart(name, kind, address, login), adoption);
    Charter charter = Charters.read(folder);
    Gap gap = Gap.between(access, charter.wanted(), true, Set.of(login), clock);
    List<Step> steps = gap.plan().steps().stream().filter(step -> !putsBack(step)).toList();
    out.println(
        "drafted in "
            + folder
            + ": "
            + charter.wanted().roles().size()
            + " roles, "
            + adoption.users().size()
            + " users, "
            + charter.wanted().grants().size()
            + " grant sentences"
            + policies(adoption.policies()));
    if (url.isEmpty()) {
      out.println("write the server's address into " + FileLink.to(folder.resolve("fiador.yaml")));
    }
    gap.plan().problems().forEach(err::println);
    gap.plan().notes().forEach(this::note);
    if (!steps.isEmpty() || !gap.plan().problems().isEmpty()) {
      out.println("compared with the survey, " + steps.size() + " steps are left:");
      steps.stream().limit(10).forEach(step -> out.println("  " + step));
      return Exit.NO;
    }
    List<String> left = adoption.leftOut();
    out.println(
        "compared with the survey: no gap"
            + (left.isEmpty()
                ? ""
                : ", but for what was left out because no sentence is about it:"));
    left.stream().limit(LEFT_OUT).forEach(what -> out.println("  " + what));
    if (left.size() > LEFT_OUT) {
      out.println("  and " + (left.size() - LEFT_OUT) + " more");
    }
    return Exit.YES;
  }

  /** What was changed by hand is left out, and named; a charter says what it is to be. */
  private static boolean putsBack(Step step) {
    return step instanceof FilterRows filter && filter.putsBack()
        || step instanceof ShowSafely show && show.putsBack();
  }

  private static String policies(AdoptedPolicies policies) {
    int all = policies.rows().size() + policies.masks().size();
    return all == 0 ? "" : all == 1 ? ", 1 policy" : ", " + all + " policies";
  }

  private static boolean isEmpty(Path folder) throws IOException {
    if (!Files.isDirectory(folder)) {
      return false;
    }
    try (Stream<Path> inside = Files.list(folder)) {
      return inside.findAny().isEmpty();
    }
  }
}
