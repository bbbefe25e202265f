package fiador.cli.ask;

import fiador.changes.Seals;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.cli.shell.Asking;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.WholeFile;
import fiador.files.charter.Charter;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.policies.Sealing;
import fiador.proofs.Proof;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.exchange.ProofReport;
import fiador.report.exchange.ProofReport.Line;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Shown;
import fiador.report.text.Headline;
import fiador.report.text.ProofWhy;
import fiador.servers.live.SightProver;
import fiador.servers.live.Trial.Answer;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import fiador.work.proving.Proving;
import fiador.work.proving.Tried;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

public final class ProveCommand extends Asking {
  Path folder = Path.of("");
  boolean live;
  Path junit;

  @Override
  public void options(Options options) {
    super.options(options);
    suppositions(options);
    options.option(
        "--charter",
        "DIR",
        Path.class,
        value -> folder = value,
        "The charter's folder, which has the proofs; else this one.");
    options.flag(
        "--live",
        given -> live = given,
        "Surveys the server and asks it as the user about each proof; nothing is carried out.");
    options.option(
        "--junit", "FILE", Path.class, value -> junit = value, "Writes XML for test runners.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Whether the proofs of a charter hold: what must work does, and what must be refused is.",
      "\"can\" means all of it, after login or after switching a role on; \"cannot\" means no part of it.",
      "\"can never\" and \"can ever\" look ahead, at what people could make themselves able to do."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Exit code 1 when a proof fails, 2 when only some could not be looked at. Each seal is a proof too.",
      "Superusers, who are refused nothing by a server, do not break \"only\" and \"nobody\"; they are named.",
      "",
      "Examples:",
      "  fiador prove                          on the newest survey",
      "  fiador prove --live                   also asked of the server, as the user",
      "  fiador prove --junit target/proofs.xml"
    };
  }

  private int unknown;

  @Override
  public int run() throws Refusal, IOException {
    Charter everywhere = Charters.read(folder);
    List<Seal> sealed = everywhere.wanted().sight().seals();
    if (everywhere.proofs().isEmpty() && sealed.isEmpty()) {
      throw new BadInput("the charter has no proofs; add sentences under \"proofs\"");
    }
    if (from == null && !live && !folder.toString().isEmpty()) {
      from = folder.toString();
    }
    Charter.ServerEntry asked = live ? Charters.server(everywhere, from) : null;
    Access access =
        asked == null ? access() : Surveys.take(everywhere, asked, clock.instant(), this::note);
    Charter.ServerEntry entry = asked == null ? of(everywhere, access) : asked;
    Charter charter = everywhere.on(entry.name());
    List<Seal> seals = charter.wanted().sight().seals();
    Proving proving = new Proving(entry, access, clock, live);
    ProofReport report = new ProofReport();
    for (Charter.Sentence sentence : charter.proofs()) {
      report.add(line(sentence, proving, access));
    }
    Sealing sealing = new Sealing(access, clock);
    seals.forEach(seal -> report.add(line(seal, Seals.found(access, seal), sealing, access, live)));
    print(report, access);
    if (junit != null) {
      WholeFile.write(junit, to -> report.junit("proofs of " + entry.name(), to));
    }
    return report.failures() == 0
        ? Exit.YES
        : report.failures() == unknown ? Exit.BAD_INPUT : Exit.NO;
  }

  /** The server of the charter that a survey is of; the only one where it is called otherwise. */
  private static Charter.ServerEntry of(Charter charter, Access access) throws BadInput {
    Charter.ServerEntry named = charter.servers().get(access.about().server());
    return named == null ? Charters.server(charter, null) : named;
  }

  private void print(ProofReport report, Access access) throws IOException {
    if (format != Format.TEXT) {
      try (RowWriter writer = RowWriter.to(out, format, ProofReport.FIELDS)) {
        for (Line line : report.lines()) {
          writer.row(ProofReport.row(line));
        }
      }
      return;
    }
    int all = report.lines().size();
    String proofs = all + (all == 1 ? " proof" : " proofs");
    int failures = report.failures();
    String origin = new Shown(access, true).origin(clock.instant());
    String answer =
        failures == 0
            ? (all == 1 ? "the only proof holds" : "all " + proofs + " hold")
            : failures == unknown
                ? unknown + " of " + proofs + " not looked at"
                : failures + " of " + proofs + (failures == 1 ? " fails" : " fail");
    out.println(Headline.of(answer, origin, width()));
    out.println();
    out.print(report.text(width()));
    sayDifference(change -> true);
  }

  /** Each seal is a proof of its own: nobody gets through it by what they were given. */
  private static Line line(
      Seal seal, Sights.Seal found, Sealing sealing, Access access, boolean live) {
    Shown shown = new Shown(access, true);
    Set<Integer> given = new LinkedHashSet<>();
    Set<Integer> strong = new LinkedHashSet<>();
    sealing.passing(found, one -> (one.power() == null ? given : strong).add(one.user()));
    String why = "";
    if (!given.isEmpty()) {
      why =
          ProofWhy.names(List.copyOf(given), shown)
              + " can get in; fiador trace shows through what";
    } else if (!strong.isEmpty()) {
      why = "but for powers and owners: " + ProofWhy.names(List.copyOf(strong), shown);
    }
    return new Line(
        "only those named pass the seal " + seal.name(),
        seal.place().toString(),
        given.isEmpty(),
        why,
        live ? "not tried" : null);
  }

  private Line line(Charter.Sentence sentence, Proving proving, Access access) throws Refusal {
    String place = sentence.place().toString();
    if (sentence.proof() instanceof Proof.OfSight proof) {
      SightProver.Result seen = proving.prove(proof);
      return new Line(sentence.text(), place, seen.holds(), seen.why(), seen.live());
    }
    Tried tried = proving.prove(sentence.proof());
    unknown += tried.paper().unknown() ? 1 : 0;
    String why = ProofWhy.text(tried.proof(), tried.paper(), new Shown(access, true));
    String live = null;
    if (tried.live() != null) {
      String how = tried.live().why();
      live = words(tried.live().answer()) + (how.isEmpty() ? "" : ": " + how);
    }
    if (tried.disagrees()) {
      why = (why.isEmpty() ? "" : why + "; ") + "the server is of another opinion: it " + live;
    }
    var ladders = ProofWhy.ladders(tried.paper(), new Shown(access, format == Format.TEXT));
    return new Line(sentence.text(), place, tried.holds(), why, live, ladders);
  }

  private static String words(Answer answer) {
    return switch (answer) {
      case ALLOWED -> "allowed it";
      case REFUSED -> "refused it";
      case NOT_TRIED -> "not tried";
    };
  }
}
