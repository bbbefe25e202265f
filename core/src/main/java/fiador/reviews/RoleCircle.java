package fiador.reviews;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Roles that hold each other in a circle. */
final class RoleCircle implements Check {
  static final Asked ASKED =
      new Asked(
          "role-circle",
          Severity.LOW,
          "Which roles hold each other, so that they are one role under several names?",
          "Take one membership out of the circle.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int role = 1; role < facts.people.size(); role++) {
      IntArrayList others = new IntArrayList();
      for (int held : facts.isRole(role) ? facts.reach.up(role) : new IntArrayList()) {
        if (held != role && facts.reach.holds(held, role)) {
          others.add(held);
        }
      }
      if (!others.isEmpty() && others.intStream().min().getAsInt() > role) {
        found.accept(
            Finding.about(ASKED, role, Phrase.of("holds and is held by ").whoOf(others))
                .concerns(facts.usersOf(role)));
      }
    }
  }
}
