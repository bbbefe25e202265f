package fiador.report.text;

import fiador.changes.Gap;
import fiador.climb.Climb;
import fiador.climb.Climb.Ladder;
import fiador.climb.Climb.Rung;
import fiador.effects.Insiders;
import fiador.grants.Access;
import fiador.report.shown.Shown;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;

/** What somebody could come to hold, for people and for programs. */
public final class ClimbText {
  /** The fields, in order. */
  public static final List<String> FIELDS = List.of("user", "gains", "rungs");

  private static final int LADDERS = 8;

  private final Shown shown;
  private final Shown plain;
  private final int width;
  private final Instant now;
  private final Access access;

  /** Parameters as for {@link HoldingText}. */
  public ClimbText(Access access, int width, Instant now) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.plain = new Shown(access, false);
    this.width = width;
    this.now = now;
  }

  /** What keeps an administrator out of anything. */
  private String holding(int user) {
    Insiders insiders = new Insiders(access);
    StringJoiner out = new StringJoiner(", ");
    for (int i = 0; i < access.tree().sealed().size(); i++) {
      int node = access.tree().sealed().get(i);
      if (insiders.isOut(user, node)) {
        out.add(shown.node(node));
      }
    }
    return out.length() == 0 ? "nothing holds it" : "nothing holds it but what is sealed: " + out;
  }

  /**
   * The answer, the ladders, and what all of it adds.
   *
   * @param gained what the user would hold with all roles it can give itself; null for none
   */
  public String text(Climb.Result result, Gap gained) {
    String who = shown.principal(result.user());
    String answer =
        result.alreadyAdministrator()
            ? who + " is an administrator already: " + holding(result.user())
            : result.administrator() != null
                ? "yes: " + who + " can make itself administrator"
                : result.ladders().isEmpty()
                    ? "no: " + who + " cannot gain more by its own means"
                    : "yes: " + who + " can gain more by its own means";
    StringBuilder text = new StringBuilder(Headline.of(answer, shown.origin(now), width));
    text.append("\n");
    if (result.administrator() != null) {
      text.append("\nto administrator\n").append(rungs(result.administrator()));
    }
    List<Ladder> ladders = result.ladders();
    for (int i = 0; i < Math.min(LADDERS, ladders.size()); i++) {
      Ladder ladder = ladders.get(i);
      text.append("\nto ").append(shown.principal(ladder.gained())).append('\n');
      text.append(rungs(ladder));
    }
    if (ladders.size() > LADDERS) {
      text.append("\nand to ").append(ladders.size() - LADDERS).append(" more\n");
    }
    String effects = gained == null ? "" : new ChangeText(gained, width).text();
    text.append(effects.isEmpty() ? "" : "\nwhat that adds\n" + effects);
    return text.toString();
  }

  private String rungs(Ladder ladder) {
    Columns lines = new Columns(width);
    for (int i = 0; i < ladder.rungs().size(); i++) {
      Rung rung = ladder.rungs().get(i);
      String as = "as " + shown.principal(rung.by());
      lines.line(String.valueOf(i + 1), RungText.words(rung, shown), as);
    }
    return lines.text();
  }

  /** All ladders, the one to administrator first. */
  public List<Map<String, Object>> rows(Climb.Result result) {
    List<Ladder> all = new ArrayList<>();
    if (result.administrator() != null) {
      all.add(result.administrator());
    }
    all.addAll(result.ladders());
    List<Map<String, Object>> rows = new ArrayList<>();
    for (Ladder ladder : all) {
      Map<String, Object> row = new LinkedHashMap<>();
      row.put("user", plain.principal(result.user()));
      row.put("gains", ladder.gained() < 0 ? "administrator" : plain.principal(ladder.gained()));
      List<Map<String, Object>> rungs = new ArrayList<>();
      for (Rung rung : ladder.rungs()) {
        Map<String, Object> step = new LinkedHashMap<>();
        step.put("as", plain.principal(rung.by()));
        step.put("does", RungText.words(rung, plain));
        rungs.add(step);
      }
      row.put("rungs", rungs);
      rows.add(row);
    }
    return rows;
  }
}
