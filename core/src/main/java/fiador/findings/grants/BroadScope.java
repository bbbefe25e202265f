package fiador.findings.grants;

import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Grants;
import fiador.grants.SchemaPattern;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;

/** Privileges that reach the whole server or schemas by pattern. */
public final class BroadScope implements Check {
  static final Asked ASKED =
      new Asked(
          "broad-scope",
          Severity.MEDIUM,
          "Who was given a privilege on everything where one schema would do?",
          "Grant it on the schemas that are needed, then take it from the whole.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Grants grants = facts.access.grants();
    for (int row : grants.byNode().run(0)) {
      long inside = grants.terms(row).privileges() & CONTENT;
      int grantee = grants.grantee(row);
      if (inside != 0 && grants.terms(row).covers() != 0 && facts.isOurs(grantee)) {
        found.accept(
            Finding.about(
                    ASKED,
                    grantee,
                    Phrase.of("was granted ").privileges(inside).say(" on the whole server"))
                .concerns(facts.usersOf(grantee))
                .mendedBy(List.of(facts.taking.revoke(row, inside))));
      }
    }
    for (SchemaPattern pattern : facts.access.patterns()) {
      long matched =
          Arrays.stream(pattern.matches(facts.tree))
              .filter(schema -> !facts.tree.isSystem(schema))
              .count();
      if (matched > 1 && facts.isOurs(pattern.grantee())) {
        found.accept(
            Finding.about(
                    ASKED,
                    pattern.grantee(),
                    Phrase.of("was granted ")
                        .privileges(pattern.privileges())
                        .say(" on schemas like " + pattern.pattern() + ": " + matched + " today"))
                .apart(pattern.pattern())
                .concerns(facts.usersOf(pattern.grantee())));
      }
    }
  }

  private static final long CONTENT =
      PrivilegeSet.of(
          Privilege.SELECT,
          Privilege.INSERT,
          Privilege.UPDATE,
          Privilege.DELETE,
          Privilege.EXECUTE,
          Privilege.DROP,
          Privilege.ALTER);
}
