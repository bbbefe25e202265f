package fiador.reviews;

import fiador.estate.NodeKind;
import java.util.function.Consumer;

/** Roles with a privilege on most tables of a schema. */
final class PartlyCovered implements Check {
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
      cover.each(
          (role, privilege, count) -> {
            boolean most = count > 1 && count * 100 >= facts.limits.coveredShare() * all;
            if (count < all && most) {
              Phrase said =
                  Phrase.of("has " + privilege.text() + " on " + count + " of " + all)
                      .say(" tables in ")
                      .where(cover.schema())
                      .say(", not on ");
              cover.others(role, privilege, said);
              found.accept(
                  Finding.about(ASKED, role, said)
                      .on(cover.schema())
                      .concerns(facts.usersOf(role)));
            }
          });
    }
  }
}
