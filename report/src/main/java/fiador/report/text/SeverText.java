package fiador.report.text;

import fiador.changes.steps.Step;
import fiador.grants.Access;
import fiador.repairs.Sever;
import fiador.report.shown.Shown;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/** How a privilege is taken away, for people and for programs. */
public final class SeverText {
  /** The fields, in order. */
  public static final List<String> FIELDS =
      List.of("way", "statements", "others", "lost_by_others", "lost_besides");

  private final Shown shown;
  private final int width;
  private final Instant now;
  private final Function<List<Step>, List<String>> statements;

  /** Parameters as for {@link FindingText}. */
  public SeverText(
      Access access, int width, Instant now, Function<List<Step>, List<String>> statements) {
    this.shown = new Shown(access, true);
    this.width = width;
    this.now = now;
    this.statements = statements;
  }

  /**
   * The answer, the best way with what it does to people, then the other ways.
   *
   * @param what the privilege and the thing, in words
   */
  public String text(int user, String what, Sever.Result result) {
    String who = shown.principal(user);
    StringBuilder text = new StringBuilder();
    if (!result.held()) {
      return aligned("nothing to take: " + who + " does not hold " + what);
    }
    if (result.ways().isEmpty()) {
      text.append(aligned("no: nothing that can be revoked takes " + what + " from " + who));
      String firm =
          result.inTheWay().stream().map(this::firm).collect(Collectors.joining(", and "));
      return text + "\n  " + (firm.isEmpty() ? "somebody else would gain by it" : firm) + "\n";
    }
    Sever.Way best = result.ways().get(0);
    int steps = best.gap().plan().steps().size();
    String count =
        best.denies()
            ? "a denial takes "
            : steps == 1 ? "1 revocation takes " : steps + " revocations take ";
    text.append(aligned(count + what + " from " + who));
    text.append("  ").append(harm(best)).append("\n\n");
    statements
        .apply(best.gap().plan().steps())
        .forEach(sql -> text.append("  ").append(sql).append(";\n"));
    String effects = new ChangeText(best.gap(), width).text();
    text.append("\neffect\n").append(effects);
    for (Sever.Way way : result.ways().subList(1, result.ways().size())) {
      text.append("\nor").append(way.denies() ? " by a denial" : "").append(": ");
      text.append(harm(way)).append("\n\n");
      statements
          .apply(way.gap().plan().steps())
          .forEach(sql -> text.append("  ").append(sql).append(";\n"));
    }
    return text.toString();
  }

  private String aligned(String answer) {
    return Headline.of(answer, shown.origin(now), width) + "\n";
  }

  private static String harm(Sever.Way way) {
    int own = way.lostBesides();
    if (way.others() == 0) {
      return own == 0 ? "nothing else goes" : own + " more go with it; nobody else loses anything";
    }
    String people = way.others() == 1 ? "1 other user loses " : way.others() + " other users lose ";
    String holdings = way.lostByOthers() + (way.lostByOthers() == 1 ? " holding" : " holdings");
    return people + holdings + (own == 0 ? "" : ", and " + own + " more go with it");
  }

  private String firm(Sever.Firm firm) {
    String who = shown.principal(firm.principal());
    return firm.power() == null
        ? who + " owns " + shown.node(firm.node()) + ": give it another owner first"
        : who + " has the power " + firm.power().text();
  }

  /** One way. */
  public Map<String, Object> row(int number, Sever.Way way) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("way", number);
    row.put("statements", statements.apply(way.gap().plan().steps()));
    row.put("others", way.others());
    row.put("lost_by_others", way.lostByOthers());
    row.put("lost_besides", way.lostBesides());
    return row;
  }
}
