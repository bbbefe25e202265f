package fiador.findings.grants;

import fiador.changes.steps.GrantLater;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.PrivilegeSet;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** Roles with a privilege on all tables of a schema that new tables will not come with. */
public final class LaterUncovered implements Check {
  static final Asked ASKED =
      new Asked(
          "later-uncovered",
          Severity.MEDIUM,
          "Who will be refused as soon as somebody creates a new table?",
          "Grant the privilege on what will be created too.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    if (!facts.access.rules().has(HouseFact.LATER_GRANTS)) {
      return;
    }
    for (int schema = 0; schema < facts.tree.size(); schema++) {
      if (facts.tree.kind(schema) != NodeKind.SCHEMA || facts.tree.isSystem(schema)) {
        continue;
      }
      TableCover cover = new TableCover(facts, schema);
      if (cover.tables() < 2) {
        continue;
      }
      cover
          .between(cover.tables(), cover.tables())
          .forEach(
              (role, all) -> {
                Map<IntArrayList, Long> byCreators = new LinkedHashMap<>();
                for (long rest = all; rest != 0; rest &= rest - 1) {
                  long bit = Long.lowestOneBit(rest);
                  byCreators.merge(cover.creatorsWithoutLater(role, bit), bit, (a, b) -> a | b);
                }
                byCreators.forEach(
                    (creators, bits) -> tell(facts, cover, role, creators, bits, found));
              });
    }
  }

  private void tell(
      Facts facts,
      TableCover cover,
      int role,
      IntArrayList creators,
      long privileges,
      Consumer<Finding> found) {
    if (creators.isEmpty()) {
      return;
    }
    List<Step> steps = new ArrayList<>();
    for (int creator : creators) {
      steps.add(
          new GrantLater(
              facts.people.name(creator),
              facts.taking.on(cover.schema()),
              NodeKind.TABLE,
              privileges,
              facts.people.name(role),
              false));
    }
    Phrase said =
        Phrase.of("has ")
            .privileges(privileges)
            .say(" on all " + cover.tables() + " tables in ")
            .where(cover.schema())
            .say(", but not on what ")
            .whoOf(creators)
            .say(" will create there");
    found.accept(
        Finding.about(ASKED, role, said)
            .on(cover.schema())
            .apart(PrivilegeSet.text(privileges))
            .concerns(facts.usersOf(role))
            .mendedBy(steps));
  }
}
