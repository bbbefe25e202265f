package fiador.reviews;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Memberships;

/**
 * What a line of a review is about, by names as the server stores them.
 *
 * @param user who has it; PUBLIC for everybody
 * @param means through what
 * @param through the role or the power; empty for the others
 * @param area the path of the schema (or what is above schemas) in which it gives something
 */
public record Entitlement(String user, Means means, String through, String area) {
  /** The node a thing is reviewed with: its schema, or itself where it stands above schemas. */
  static int area(Access access, int node) {
    int schema = access.tree().enclosing(node, NodeKind.SCHEMA);
    return schema < 0 ? node : schema;
  }

  /** Whether a survey has it, too. Cost: what the user was given themselves. */
  public boolean isIn(Access access) {
    int who = means == Means.EVERYBODY ? Principals.PUBLIC : access.principals().named(user);
    if (who < 0) {
      return false;
    }
    return switch (means) {
      case ROLE -> holds(access, who);
      case POWER -> access.principals().has(who, Power.named(through));
      case OWNER -> {
        for (int node : access.tree().owned().run(who)) {
          if (isHere(access, node)) {
            yield true;
          }
        }
        yield false;
      }
      case GRANT, EVERYBODY -> {
        for (int row : access.grants().byGrantee().run(who)) {
          if (isHere(access, access.grants().node(row))) {
            yield true;
          }
        }
        yield false;
      }
    };
  }

  private boolean isHere(Access access, int node) {
    return access.tree().path(area(access, node)).equals(area);
  }

  private boolean holds(Access access, int who) {
    Memberships memberships = access.memberships();
    for (int edge : memberships.rolesOf().run(who)) {
      if (access.principals().name(memberships.role(edge)).equals(through)) {
        return true;
      }
    }
    return false;
  }
}
