package fiador.grants;

import fiador.estate.Adjacency;
import java.util.List;

/**
 * Who holds which role: edges from member to role, walkable both ways. One pair may stand in
 * several edges, from several grantors.
 */
public final class Memberships {
  private final int[] member;
  private final int[] role;
  private final int[] grantor;
  private final int[] optionsOf;
  private final Membership[] options;
  private final Adjacency rolesOf;
  private final Adjacency membersOf;

  Memberships(
      int principals,
      int[] member,
      int[] role,
      int[] grantor,
      int[] optionsOf,
      List<Membership> options) {
    this.member = member;
    this.role = role;
    this.grantor = grantor;
    this.optionsOf = optionsOf;
    this.options = options.toArray(Membership[]::new);
    this.rolesOf = Adjacency.group(principals, member);
    this.membersOf = Adjacency.group(principals, role);
  }

  /** How many edges there are. */
  public int size() {
    return member.length;
  }

  /** The edges by member. */
  public Adjacency rolesOf() {
    return rolesOf;
  }

  /** The edges by role. */
  public Adjacency membersOf() {
    return membersOf;
  }

  /** Who holds. */
  public int member(int edge) {
    return member[edge];
  }

  /** What is held. */
  public int role(int edge) {
    return role[edge];
  }

  /** Who gave it, or -1. */
  public int grantor(int edge) {
    return grantor[edge];
  }

  /** How it is held. */
  public Membership options(int edge) {
    return options[optionsOf[edge]];
  }
}
