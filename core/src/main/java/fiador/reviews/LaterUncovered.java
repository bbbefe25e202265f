package fiador.reviews;

import fiador.changes.Step;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Roles with a privilege on all tables of a schema that new tables will not come with. */
final class LaterUncovered implements Check {
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
    if (!facts.access.rules().later()) {
      return;
    }
    for (int schema = 0; schema < facts.tree.size(); schema++) {
      if (facts.tree.kind(schema) != NodeKind.SCHEMA || facts.tree.isSystem(schema)) {
        continue;
      }
      TableCover cover = new TableCover(facts, schema);
      cover.each(
          (role, privilege, count) -> {
            if (count > 1 && count == cover.tables()) {
              look(facts, cover, role, privilege, found);
            }
          });
    }
  }

  private void look(
      Facts facts, TableCover cover, int role, Privilege privilege, Consumer<Finding> found) {
    IntArrayList creators = cover.creatorsWithoutLater(role, privilege);
    if (creators.isEmpty()) {
      return;
    }
    List<Step> steps = new ArrayList<>();
    for (int creator : creators) {
      steps.add(
          new Step.GrantLater(
              facts.people.name(creator),
              facts.taking.on(cover.schema()),
              NodeKind.TABLE,
              privilege.bit(),
              facts.people.name(role),
              false));
    }
    Phrase said =
        Phrase.of("has " + privilege.text() + " on all " + cover.tables() + " tables in ")
            .where(cover.schema())
            .say(", but not on what ")
            .whoOf(creators)
            .say(" will create there");
    found.accept(
        Finding.about(ASKED, role, said)
            .on(cover.schema())
            .concerns(facts.usersOf(role))
            .mendedBy(steps));
  }
}
