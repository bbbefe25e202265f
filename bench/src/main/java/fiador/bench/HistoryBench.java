package fiador.bench;

import fiador.files.ledger.Ledger;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.findings.check.Expected;
import fiador.grants.Access;
import fiador.grants.Origin;
import fiador.grants.Terms;
import fiador.grants.WhatIf;
import fiador.history.FactDifference;
import fiador.history.HoldingDifference;
import fiador.repairs.Regroup;
import fiador.repairs.Trim;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.Locale;

/** The ledger, what differs between two surveys, trimming and regrouping, on a large estate. */
public final class HistoryBench {
  private HistoryBench() {}

  private interface Work {
    Object run() throws Exception;
  }

  private static Object timed(String what, Work work) throws Exception {
    long start = System.nanoTime();
    Object result = work.run();
    System.out.printf("%-46s %8.2f s%n", what, (System.nanoTime() - start) / 1e9);
    return result;
  }

  static Access at(Access access, int hour) {
    Origin about =
        new Origin(
            "box",
            access.about().kind(),
            access.about().version(),
            Instant.ofEpochSecond(3600L * hour));
    return new Access(
        about,
        access.rules(),
        access.estate(),
        access.memberships(),
        access.grants(),
        access.denials(),
        access.columnSets(),
        access.reads(),
        access.later(),
        access.patterns(),
        access.accounts(),
        access.sights(),
        access.seen());
  }

  /** The argument is the size: S, M or L. */
  public static void main(String[] args) throws Exception {
    Locale.setDefault(Locale.ROOT);
    EstateGenerator.Size size = EstateGenerator.Size.valueOf(args[0]);
    Access access = new EstateGenerator(size, 1).generate();
    Path folder = Files.createTempDirectory("fiador-history-bench");
    Path survey = folder.resolve("survey.jsonl");
    timed(
        "write a survey file",
        () -> {
          SurveyWriter.write(access, survey);
          return null;
        });
    System.out.printf("%d MB%n", Files.size(survey) >> 20);
    timed("read it", () -> SurveyReader.read(survey));
    Path file = folder.resolve("ledger.db");
    try (Ledger ledger = Ledger.open(file)) {
      timed("record it, new", () -> ledger.record(at(access, 1)));
      System.out.printf("%d MB%n", Files.size(file) >> 20);
      timed("record it, nothing new", () -> ledger.record(at(access, 2)));
      WhatIf change = new WhatIf(access);
      change.grant(1, access.tree().size() / 2, Terms.of(1, 0), -1, -1);
      Access other = change.access();
      long before = Files.size(file);
      timed("record it with one grant more", () -> ledger.record(at(other, 3)));
      System.out.printf("%d KB more%n", (Files.size(file) - before) >> 10);
      Access back = (Access) timed("read it back", () -> ledger.read(ledger.surveys("box").get(0)));
      timed("facts that differ", () -> FactDifference.between(back, at(other, 3)).size());
      timed(
          "what one user gained",
          () -> new HoldingDifference(back, at(other, 3)).ofPrincipal(1, 1).size());
    }
    if (args.length > 1) {
      timed("trim, in excess", () -> Trim.of(access, Clock.systemUTC(), Expected.NOTHING, null));
      Regroup.Result result =
          (Regroup.Result)
              timed("regroup", () -> Regroup.of(access, Clock.systemUTC(), Expected.NOTHING, null));
      System.out.printf(
          "%d roles for %d users who have %d; at least %d; exact %b%n",
          result.groups().size(),
          result.people(),
          result.rolesNow(),
          result.atLeast(),
          result.exact());
    }
  }
}
