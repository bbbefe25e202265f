package fiador.bench;

import fiador.changes.Supposing;
import fiador.changes.Supposing.Holds;
import fiador.effects.Holders;
import fiador.effects.Holdings;
import fiador.effects.SideBySide;
import fiador.estate.NodeKind;
import fiador.grants.Access;
import fiador.policies.AnyWay;
import fiador.refusal.BadInput;
import fiador.report.lists.Lists;
import fiador.report.lists.Source;
import fiador.report.rows.Format;
import fiador.report.shown.Shown;
import fiador.selection.Selection;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.Arrays;
import java.util.List;
import java.util.Random;

/**
 * What lists, comparisons and suppositions take beside the holdings of a user, on a generated
 * estate: {@code QuestionsBench SIZE}. Medians over random users and tables.
 */
public final class QuestionsBench {
  private static final int ASKED = 15;
  private static final int ROUNDS = 5;

  private QuestionsBench() {}

  /** A question about the user or table of a turn. */
  private interface Question {
    void ask(int turn) throws BadInput, IOException;
  }

  /** Runs it. */
  public static void main(String[] args) throws BadInput, IOException {
    EstateGenerator.Size size = EstateGenerator.Size.valueOf(args[0]);
    Access access = new EstateGenerator(size, 1).generate();
    Random random = new Random(7);
    int[] users = random.ints(ASKED, 1, size.users + 1).toArray();
    int[] tables =
        random
            .ints(1, access.tree().size())
            .filter(node -> access.tree().kind(node) == NodeKind.TABLE)
            .limit(ASKED)
            .toArray();
    Clock clock = Clock.systemUTC();
    Holdings holdings = new Holdings(access, clock, false);
    double beside = median("holdings of a user", turn -> holdings.of(users[turn]));
    report(
        beside,
        "list grants --to a user",
        turn -> list("grants", access, new Selection(access).to(name(access, users[turn]))));
    report(
        beside,
        "list grants --on a table",
        turn -> list("grants", access, new Selection(access).on(access.tree().path(tables[turn]))));
    report(
        beside,
        "list members --to a user",
        turn -> list("members", access, new Selection(access).to(name(access, users[turn]))));
    Holders holders = new Holders(access, clock);
    report(beside, "holders of a table", turn -> holders.of(tables[turn]));
    AnyWay anyWay = new AnyWay(access, clock);
    report(
        beside,
        "holders of a table, by any way",
        turn -> {
          holders.of(tables[turn]);
          anyWay.of(tables[turn], -1);
        });
    report(
        beside,
        "holdings --beside",
        turn ->
            SideBySide.of(
                access.tree(), holdings.of(users[turn]), holdings.of(users[(turn + 1) % ASKED])));
    int role = access.memberships().role(0);
    report(
        beside,
        "--suppose a role, and the holdings then",
        turn -> {
          String member = name(access, users[turn]);
          Access then =
              Supposing.of(access, List.of(new Holds(member, name(access, role), false)), clock)
                  .outcome()
                  .after();
          new Holdings(then, clock, false).of(users[turn]);
        });
  }

  private static String name(Access access, int principal) {
    return access.principals().name(principal);
  }

  private static void list(String name, Access access, Selection selection) throws IOException {
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), false, StandardCharsets.UTF_8);
    Source source =
        new Source(access, selection, new Shown(access, false), Clock.systemUTC().instant(), false);
    Lists.write(name, source, Format.CSV, 100, nowhere);
  }

  private static void report(double beside, String what, Question question)
      throws BadInput, IOException {
    double median = median(what, question);
    System.out.printf("    %.1f times the holdings%n", median / beside);
  }

  private static double median(String what, Question question) throws BadInput, IOException {
    double[] millis = new double[ASKED * ROUNDS];
    for (int round = -2; round < ROUNDS; round++) {
      for (int turn = 0; turn < ASKED; turn++) {
        long begun = System.nanoTime();
        question.ask(turn);
        if (round >= 0) {
          millis[round * ASKED + turn] = (System.nanoTime() - begun) / 1e6;
        }
      }
    }
    Arrays.sort(millis);
    double median = millis[millis.length / 2];
    System.out.printf("%-45s %9.2f ms%n", what, median);
    return median;
  }
}
