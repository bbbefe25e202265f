package fiador.grants;

import fiador.estate.Adjacency;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

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

  private Memberships(
      int[] member,
      int[] role,
      int[] grantor,
      int[] optionsOf,
      Membership[] options,
      Adjacency rolesOf,
      Adjacency membersOf) {
    this.member = member;
    this.role = role;
    this.grantor = grantor;
    this.optionsOf = optionsOf;
    this.options = options;
    this.rolesOf = rolesOf;
    this.membersOf = membersOf;
  }

  /**
   * These edges without some of them and with some more.
   *
   * @param removed edges that are out of all runs
   * @param added members, roles and how, whose numbers follow on
   */
  Memberships with(IntSet removed, List<Added> added) {
    int first = size();
    int[] members = Arrays.copyOf(member, first + added.size());
    int[] roles = Arrays.copyOf(role, first + added.size());
    int[] grantors = Arrays.copyOf(grantor, first + added.size());
    int[] how = Arrays.copyOf(optionsOf, first + added.size());
    List<Membership> known = new ArrayList<>(List.of(options));
    Map<Integer, IntArrayList> up = new HashMap<>();
    Map<Integer, IntArrayList> down = new HashMap<>();
    removed.forEach(
        (int edge) -> {
          Grants.run(up, rolesOf, member[edge]).rem(edge);
          Grants.run(down, membersOf, role[edge]).rem(edge);
        });
    for (int i = 0; i < added.size(); i++) {
      Added one = added.get(i);
      members[first + i] = one.member();
      roles[first + i] = one.role();
      grantors[first + i] = one.grantor();
      int id = known.indexOf(one.how());
      how[first + i] = id < 0 ? known.size() : id;
      if (id < 0) {
        known.add(one.how());
      }
      Grants.run(up, rolesOf, one.member()).add(first + i);
      Grants.run(down, membersOf, one.role()).add(first + i);
    }
    return new Memberships(
        members,
        roles,
        grantors,
        how,
        known.toArray(Membership[]::new),
        Grants.patched(rolesOf, up),
        Grants.patched(membersOf, down));
  }

  /** An edge that is added to those that are there already. */
  record Added(int member, int role, Membership how, int grantor) {}

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

  /** How somebody holds a role directly, whoever gave it to them; null for not at all. */
  public Membership held(int member, int role) {
    Membership all = null;
    for (int edge : rolesOf().run(member)) {
      Membership how = options(edge);
      if (role(edge) == role && !how.implicit()) {
        all = all == null ? how : all.or(how);
      }
    }
    return all;
  }
}
