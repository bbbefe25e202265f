package fiador.findings.roles;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import java.util.Map;
import java.util.function.Consumer;
import java.util.regex.Pattern;

/** Names that do not follow the charter's conventions. */
public final class OddName implements Check {
  public static final Asked ASKED =
      new Asked(
          "odd-name",
          Severity.LOW,
          "Which names do not say what they are for, as the conventions ask?",
          "Rename it, or change the convention.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  private static final Pattern VARIABLE = Pattern.compile("\\{[a-z]\\w*}");

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Map<String, String> names = facts.expected.names();
    if (names.isEmpty()) {
      return;
    }
    Map<Integer, String> purposes = facts.byId(facts.expected.purposes());
    Map<Integer, String> kinds = facts.byId(facts.expected.kinds());
    for (int id = 1; id < facts.people.size(); id++) {
      String pattern = null;
      if (facts.isUser(id)) {
        pattern = "service".equals(kinds.get(id)) ? null : names.get("user");
      } else if (facts.isRole(id)) {
        String purpose = purposes.get(id);
        // a role nobody knows the purpose of and that opens things is meant for access
        pattern = names.get((purpose == null && opens(facts, id) ? "access" : purpose) + "_role");
      }
      if (pattern != null && !isLike(facts.bare(id), pattern)) {
        found.accept(
            Finding.about(ASKED, id, Phrase.of("is not named like " + pattern))
                .concerns(facts.usersOf(id)));
      }
    }
  }

  private static boolean opens(Facts facts, int role) {
    var grants = facts.access.grants();
    for (int row : grants.byGrantee().run(role)) {
      int node = grants.node(row);
      if (facts.tree.kind(node).isObject() && !facts.tree.isSystem(node)) {
        return true;
      }
    }
    return false;
  }

  private static boolean isLike(String name, String pattern) {
    String regex = VARIABLE.matcher(pattern).replaceAll("[^.]+");
    return Pattern.compile(regex, Pattern.CASE_INSENSITIVE).matcher(name).matches();
  }
}
