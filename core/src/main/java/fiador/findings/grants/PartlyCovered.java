package fiador.findings.grants;

import fiador.changes.steps.Grant;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.PrivilegeSet;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Roles with a privilege on most tables of a schema. */
public final class PartlyCovered implements Check {
  static final Asked ASKED =
      new Asked(
          "partly-covered",
          Severity.LOW,
          "Where was a table forgotten: a role reads most tables of a schema, but not all?",
          "Grant it on the other tables too, or on every table now and later.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int schema = 0; schema < facts.tree.size(); schema++) {
      if (facts.tree.kind(schema) != NodeKind.SCHEMA || facts.tree.isSystem(schema)) {
        continue;
      }
      TableCover cover = new TableCover(facts, schema);
      int all = cover.tables();
      int most = Math.max(2, (facts.limits.coveredShare() * all + 99) / 100);
      cover
          .between(most, all - 1)
          .forEach(
              (role, bits) ->
                  cover
                      .byMissing(role, bits)
                      .forEach((missing, some) -> tell(facts, cover, role, missing, some, found)));
    }
  }

  private void tell(
      Facts facts,
      TableCover cover,
      int role,
      IntArrayList missing,
      long privileges,
      Consumer<Finding> found) {
    int all = cover.tables();
    int count = all - missing.size();
    List<Step> steps = new ArrayList<>();
    for (int table : missing) {
      String name = facts.people.name(role);
      steps.add(new Grant(privileges, facts.taking.on(table), List.of(), name, false));
    }
    Phrase said =
        Phrase.of("has ").privileges(privileges).say(" on " + count + " of " + all + " tables in ");
    said.where(cover.schema()).say(", not on ");
    for (int i = 0; i < Math.min(3, missing.size()); i++) {
      said.say(i == 0 ? "" : ", ").where(missing.getInt(i));
    }
    said.say(missing.size() > 3 ? " and " + (missing.size() - 3) + " more" : "");
    found.accept(
        Finding.about(ASKED, role, said)
            .on(cover.schema())
            .apart(PrivilegeSet.text(privileges))
            .concerns(facts.usersOf(role))
            .mendedBy(steps));
  }
}
