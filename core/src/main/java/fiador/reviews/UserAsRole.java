package fiador.reviews;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Users that others hold like a role. */
final class UserAsRole implements Check {
  static final Asked ASKED =
      new Asked(
          "user-as-role",
          Severity.LOW,
          "Which accounts are used as roles, so that one person's rights are also another's?",
          "Make a role of what is shared, and give that to both.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int user = 1; user < facts.people.size(); user++) {
      IntArrayList members = new IntArrayList();
      var edges = facts.access.memberships();
      for (int edge : facts.isUser(user) ? edges.membersOf().run(user) : new int[0]) {
        if (facts.isOurs(edges.member(edge))) {
          members.add(edges.member(edge));
        }
      }
      if (!members.isEmpty()) {
        found.accept(
            Finding.about(ASKED, user, Phrase.of("is held like a role by ").whoOf(members))
                .concerns(members));
      }
    }
  }
}
