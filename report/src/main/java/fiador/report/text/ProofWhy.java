package fiador.report.text;

import fiador.proofs.Proof;
import fiador.proofs.Prover;
import fiador.proofs.Rung;
import fiador.report.shown.Shown;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** Why a proof fails, or what is to be known where it holds. */
public final class ProofWhy {
  private static final int NAMED = 5;

  private ProofWhy() {}

  /** In a sentence; empty when there is nothing to say. */
  public static String text(Proof proof, Prover.Result result, Shown shown) {
    if (result.problem() != null) {
      return result.problem();
    } else if (result.holds()) {
      return result.remarks().isEmpty()
          ? ""
          : "but for superusers: " + names(result.remarks(), shown);
    }
    String who = names(result.against(), shown);
    if (proof instanceof Proof.Can) {
      return who + " cannot; fiador trace shows what is missing";
    }
    List<String> all = new ArrayList<>();
    if (!result.unable().isEmpty()) {
      all.add(names(result.unable(), shown) + " cannot");
    }
    List<Integer> able =
        result.against().stream().filter(user -> can(proof, result, user)).toList();
    List<Integer> could =
        result.against().stream().filter(user -> !can(proof, result, user)).toList();
    if (!able.isEmpty()) {
      all.add(names(able, shown) + " can; fiador trace shows through what");
    }
    if (!could.isEmpty()) {
      all.add(names(could, shown) + " could, by their own means");
    }
    return String.join("; ", all);
  }

  /** Whether somebody can as things are. */
  private static boolean can(Proof proof, Prover.Result result, int user) {
    List<Rung> way = result.ways().get(user);
    return !proof.ever() || way != null && way.isEmpty();
  }

  /**
   * How some of those who could come to it, for programs: {@code user} and {@code rungs}, each with
   * {@code as} and {@code does}.
   */
  public static List<Map<String, Object>> ladders(Prover.Result result, Shown shown) {
    List<Map<String, Object>> found = new ArrayList<>();
    result
        .ways()
        .forEach(
            (user, rungs) -> {
              if (rungs.isEmpty()) {
                return;
              }
              Map<String, Object> ladder = new LinkedHashMap<>();
              ladder.put("user", shown.principal(user));
              ladder.put("rungs", rungs(rungs, shown));
              found.add(ladder);
            });
    return found;
  }

  private static List<Map<String, Object>> rungs(List<Rung> rungs, Shown shown) {
    List<Map<String, Object>> rows = new ArrayList<>();
    for (Rung rung : rungs) {
      Map<String, Object> row = new LinkedHashMap<>();
      row.put("as", shown.principal(rung.by()));
      row.put("does", RungText.words(rung, shown));
      rows.add(row);
    }
    return rows;
  }

  /** The first names, and how many more. */
  public static String names(List<Integer> users, Shown shown) {
    String some =
        users.stream().limit(NAMED).map(shown::principal).collect(Collectors.joining(", "));
    return users.size() > NAMED ? some + " and " + (users.size() - NAMED) + " more" : some;
  }
}
