package fiador.report.text;

import fiador.findings.check.Phrase;
import fiador.grants.Access;
import fiador.repairs.Regroup;
import fiador.report.shown.Shown;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;

/** Fewer roles for the same, for people and for programs. */
public final class RegroupText {
  /** The fields, in order. */
  public static final List<String> FIELDS = List.of("role", "as_now", "users", "grants");

  private static final int SOME = 4;

  private final Shown shown;
  private final Shown plain;
  private final int width;
  private final Instant now;

  /**
   * @param width how wide a line may be
   */
  public RegroupText(Access access, int width, Instant now) {
    this.shown = Shown.brief(access);
    this.plain = new Shown(access, false);
    this.width = width;
    this.now = now;
  }

  /**
   * The answer, and the roles.
   *
   * @param statements how many statements it takes
   */
  public String text(Regroup.Result result, int statements) {
    int count = result.groups().size();
    String answer =
        count == 0
            ? "nothing to regroup"
            : result.isBetter() ? answer(result, count) : "no smaller order of roles found";
    StringBuilder text = new StringBuilder(Headline.of(answer, shown.origin(now), width));
    text.append("\n");
    if (count == 0) {
      return text.append("  nobody has plain privileges through roles or by themselves\n")
          .toString();
    }
    if (!result.isBetter()) {
      return text.append("  today's ")
          .append(result.rolesNow())
          .append(" hold each other; without that it takes ")
          .append(count)
          .append(count == result.atLeast() ? "\n" : ", and at least " + result.atLeast() + "\n")
          .toString();
    }
    text.append(
        count == result.atLeast()
            ? "  no order of roles without roles in them has fewer"
            : "  an order of roles without roles in them has at least " + result.atLeast());
    text.append("; powers, ownership, rights to grant on\n  and the umbrella are left alone\n\n");
    Columns lines = new Columns(width);
    for (Regroup.Group group : result.groups()) {
      List<String> users = group.users().intStream().mapToObj(shown::principal).toList();
      String role = shown.name(group.name());
      lines.line(
          group.role() < 0 ? role + " (new)" : role,
          together(group.grants()),
          "for " + some(users));
    }
    text.append(lines.text()).append("\n  ").append(exactly(result)).append('\n');
    if (result.exact()) {
      text.append("  ").append(statements).append(" statements; --script FILE writes them\n");
    }
    String effects = new ChangeText(result.gap(), width).text();
    text.append(effects.isEmpty() ? "" : "\neffect\n" + effects);
    return text.toString();
  }

  private static String answer(Regroup.Result result, int count) {
    int own = result.grantsNow();
    String grants =
        own == 0 ? "" : own == 1 ? " and a grant of their own" : " and " + own + " grants";
    return (count == 1 ? "1 role is" : count + " roles are")
        + " enough where "
        + result.people()
        + " users have "
        + result.rolesNow()
        + grants;
  }

  private static String exactly(Regroup.Result result) {
    if (!result.exact()) {
      return "not exact: somebody would gain, or lose what they need";
    }
    return result.gap().effects().isEmpty()
        ? "nobody gains or loses anything"
        : "nobody gains anything, and nobody loses what they used";
  }

  /** Things on which the same is given, said together. */
  private String together(List<Phrase> grants) {
    Map<String, List<String>> things = new LinkedHashMap<>();
    for (Phrase grant : grants) {
      String words = FindingText.words(grant, shown);
      int at = words.lastIndexOf(" on ") + 4;
      things
          .computeIfAbsent(words.substring(0, at), none -> new ArrayList<>())
          .add(words.substring(at));
    }
    StringJoiner said = new StringJoiner("; ");
    things.forEach((what, names) -> said.add(what + some(names)));
    return said.toString();
  }

  private static String some(List<String> list) {
    return list.size() <= SOME
        ? String.join(", ", list)
        : String.join(", ", list.subList(0, SOME - 1))
            + " and "
            + (list.size() - SOME + 1)
            + " more";
  }

  /** One role. */
  public Map<String, Object> row(Regroup.Group group) {
    List<String> grants = new ArrayList<>();
    group.grants().forEach(each -> grants.add(FindingText.words(each, plain)));
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("role", group.name());
    row.put("as_now", group.role() >= 0);
    row.put("users", group.users().intStream().mapToObj(plain::principal).toList());
    row.put("grants", grants);
    return row;
  }
}
