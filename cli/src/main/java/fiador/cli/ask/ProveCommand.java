package fiador.cli.ask;

import fiador.changes.Seals;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.cli.shell.Asking;
import fiador.cli.shell.BadInput;
import fiador.cli.shell.Charters;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.Surveys;
import fiador.cli.shell.UserSecrets;
import fiador.effects.Proof;
import fiador.effects.Prover;
import fiador.effects.Switching;
import fiador.files.WholeFile;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Sights;
import fiador.policies.Sealing;
import fiador.report.exchange.ProofReport;
import fiador.report.exchange.ProofReport.Line;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Shown;
import fiador.report.text.Headline;
import fiador.servers.jdbc.ServerException;
import fiador.servers.live.Preview;
import fiador.servers.live.SightProver;
import fiador.servers.live.Trial;
import fiador.servers.live.Trial.Answer;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

public final class ProveCommand extends Asking {
  Path folder = Path.of("");
  boolean live;
  Path junit;

  @Override
  public void options(Options options) {
    super.options(options);
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
      "\"can\" means all of it, after login or after switching a role on; \"cannot\" means no part of it."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Exit code 1 when a proof fails, 2 when only some could not be looked at. Each seal is a proof too.",
      "Superusers, whom a server refuses nothing, do not break \"only\" and \"nobody\"; they are named.",
      "",
      "Examples:",
      "  fiador prove                          on the newest survey",
      "  fiador prove --live                   also asked of the server, as the user",
      "  fiador prove --junit target/proofs.xml"
    };
  }

  private int unknown;

  @Override
  public int run()
      throws BadInput, SurveyException, CharterException, ServerException, IOException {
    Charter charter = Charters.read(folder);
    List<Seal> seals = charter.wanted().sight().seals();
    if (charter.proofs().isEmpty() && seals.isEmpty()) {
      throw new BadInput("the charter has no proofs; add sentences under \"proofs\"");
    }
    Charter.ServerEntry entry = Charters.server(charter, live ? from : null);
    if (from == null && !folder.toString().isEmpty()) {
      from = folder.toString();
    }
    Access access = live ? Surveys.take(charter, entry, clock.instant(), this::note) : access();
    Trial trial = live ? new Trial(Surveys.kind(entry), Surveys.login(entry), access.tree()) : null;
    Prover prover = new Prover(access, clock);
    ProofReport report = new ProofReport();
    UserSecrets secrets = UserSecrets.of(access, Set.of());
    SightProver sights =
        new SightProver(
            new Preview(Surveys.kind(entry), Surveys.login(entry), access, clock),
            access,
            user -> secret(secrets, access.principals().name(user)));
    for (Charter.Sentence sentence : charter.proofs()) {
      if (sentence.proof() instanceof Proof.OfSight proof) {
        SightProver.Result result = sights.prove(proof, live);
        String place = sentence.place().toString();
        report.add(new Line(sentence.text(), place, result.holds(), result.why(), result.live()));
        continue;
      }
      Prover.Result result = prover.prove(sentence.proof());
      unknown += result.unknown() ? 1 : 0;
      report.add(line(sentence, result, access, trial));
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

  private static String secret(UserSecrets secrets, String user) throws ServerException {
    try {
      return secrets.of(user);
    } catch (BadInput lost) {
      throw new ServerException(lost.getMessage(), lost);
    }
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
    int failures = report.failures();
    String origin = new Shown(access, true).origin(clock.instant());
    String answer =
        failures == 0
            ? "all " + all + " proofs hold"
            : failures == unknown
                ? unknown + " of " + all + " proofs not looked at"
                : failures + " of " + all + (failures == 1 ? " proofs fails" : " proofs fail");
    out.println(Headline.of(answer, origin, width()));
    out.println();
    out.print(report.text(width()));
  }

  /** Each seal is a proof of its own: nobody gets through it by what he was given. */
  private static Line line(
      Seal seal, Sights.Seal found, Sealing sealing, Access access, boolean live) {
    Shown shown = new Shown(access, true);
    Set<Integer> given = new LinkedHashSet<>();
    Set<Integer> strong = new LinkedHashSet<>();
    sealing.passing(found, one -> (one.power() == null ? given : strong).add(one.user()));
    String why = "";
    if (!given.isEmpty()) {
      why = names(List.copyOf(given), shown) + " can get in; fiador trace shows through what";
    } else if (!strong.isEmpty()) {
      why = "but for powers and owners: " + names(List.copyOf(strong), shown);
    }
    return new Line(
        "only those named pass the seal " + seal.name(),
        seal.place().toString(),
        given.isEmpty(),
        why,
        live ? "not tried" : null);
  }

  private Line line(Charter.Sentence sentence, Prover.Result result, Access access, Trial trial)
      throws ServerException {
    Shown shown = new Shown(access, true);
    String why = "";
    boolean wanted = !(sentence.proof() instanceof Proof.Cannot);
    if (result.problem() != null) {
      why = result.problem();
    } else if (!result.holds()) {
      why = why(sentence.proof(), result, shown);
    } else if (!result.remarks().isEmpty()) {
      why = "but for superusers: " + names(result.remarks(), shown);
    }
    String live = null;
    boolean holds = result.holds();
    if (trial != null) {
      live = "not tried";
      String user = userOf(sentence.proof(), access);
      if (result.problem() == null && user != null) {
        Trial.Outcome tried =
            trial.attempt(
                user,
                sentence.proof().privilege(),
                result.node(),
                result.column(),
                Switching.roleFor(
                    access,
                    clock,
                    access.principals().named(user),
                    sentence.proof().privilege(),
                    result.node(),
                    result.column()));
        Answer answer = tried.answer();
        live = words(answer) + (tried.why().isEmpty() ? "" : ": " + tried.why());
        boolean paper = wanted == result.holds();
        if (answer != Answer.NOT_TRIED && (answer == Answer.ALLOWED) != paper) {
          holds = false;
          why = (why.isEmpty() ? "" : why + "; ") + "the server is of another opinion: it " + live;
        }
      }
    }
    return new Line(sentence.text(), sentence.place().toString(), holds, why, live);
  }

  private static String words(Answer answer) {
    return switch (answer) {
      case ALLOWED -> "allowed it";
      case REFUSED -> "refused it";
      case NOT_TRIED -> "not tried";
    };
  }

  private static String why(Proof proof, Prover.Result result, Shown shown) {
    String who = names(result.against(), shown);
    if (proof instanceof Proof.Can) {
      return who + " cannot; fiador trace shows what is missing";
    }
    String able = who.isEmpty() ? "" : who + " can; fiador trace shows through what";
    String unable = names(result.unable(), shown);
    return unable.isEmpty() ? able : unable + " cannot" + (able.isEmpty() ? "" : "; " + able);
  }

  private static String names(List<Integer> users, Shown shown) {
    String some = users.stream().limit(5).map(shown::principal).collect(Collectors.joining(", "));
    return users.size() > 5 ? some + " and " + (users.size() - 5) + " more" : some;
  }

  /** The user a proof is about, as the server stores the name; null where it is about roles. */
  private static String userOf(Proof proof, Access access) {
    String name = null;
    if (proof instanceof Proof.Can can) {
      name = can.who().name();
    } else if (proof instanceof Proof.Cannot cannot) {
      name = cannot.who().name();
    }
    Lookup.Found found = name == null ? null : new Lookup(access).principal(name);
    return found == null || !found.ok() || !access.principals().isUser(found.id())
        ? null
        : access.principals().name(found.id());
  }
}
