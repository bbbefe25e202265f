package fiador.grants;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import fiador.columns.PackedReader;
import fiador.columns.PackedWriter;
import fiador.estate.Adjacency;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Who holds which role: edges from member to role, walkable both ways. One pair may stand in
 * several edges, from several grantors.
 */
public final class Memberships {
  private final Ints member;
  private final Ints role;
  private final Ints grantor;
  private final Ints optionsOf;
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
    this.member = Ints.of(member);
    this.role = Ints.of(role);
    this.grantor = Ints.of(grantor);
    this.optionsOf = Ints.of(optionsOf);
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
    this.member = Ints.of(member);
    this.role = Ints.of(role);
    this.grantor = Ints.of(grantor);
    this.optionsOf = Ints.of(optionsOf);
    this.options = options;
    this.rolesOf = rolesOf;
    this.membersOf = membersOf;
  }

  private Memberships(ColumnSource source) {
    this.member = source.ints("members.member");
    this.role = source.ints("members.role");
    this.grantor = source.ints("members.grantor");
    this.optionsOf = source.ints("members.options_of");
    this.rolesOf = Adjacency.take("members.roles_of", source);
    this.membersOf = Adjacency.take("members.members_of", source);
    PackedReader packed = new PackedReader("members.options", source);
    this.options =
        packed
            .list(
                () ->
                    new Membership(
                        packed.flag(), packed.flag(), packed.flag(), packed.bits(), packed.flag()))
            .toArray(Membership[]::new);
  }

  /** The edges that {@link #put} laid down. */
  static Memberships take(ColumnSource source) {
    return new Memberships(source);
  }

  /** Lays the edges down. */
  void put(ColumnSink sink) {
    sink.ints("members.member", member);
    sink.ints("members.role", role);
    sink.ints("members.grantor", grantor);
    sink.ints("members.options_of", optionsOf);
    rolesOf.put("members.roles_of", sink);
    membersOf.put("members.members_of", sink);
    PackedWriter packed = new PackedWriter();
    packed
        .each(
            List.of(options),
            how ->
                packed
                    .flag(how.admin())
                    .flag(how.inherit())
                    .flag(how.set())
                    .bits(how.until())
                    .flag(how.implicit()))
        .put("members.options", sink);
  }

  /**
   * These edges without some of them and with some more.
   *
   * @param removed edges that are out of all runs
   * @param added members, roles and how, whose numbers follow on
   */
  Memberships with(IntSet removed, List<Added> added) {
    int first = size();
    int[] members = member.toArray(first + added.size());
    int[] roles = role.toArray(first + added.size());
    int[] grantors = grantor.toArray(first + added.size());
    int[] how = optionsOf.toArray(first + added.size());
    List<Membership> known = new ArrayList<>(List.of(options));
    Map<Integer, IntArrayList> up = new HashMap<>();
    Map<Integer, IntArrayList> down = new HashMap<>();
    removed.forEach(
        (int edge) -> {
          Grants.run(up, rolesOf, member.get(edge)).rem(edge);
          Grants.run(down, membersOf, role.get(edge)).rem(edge);
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
    return member.size();
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
    return member.get(edge);
  }

  /** What is held. */
  public int role(int edge) {
    return role.get(edge);
  }

  /** Who gave it, or -1. */
  public int grantor(int edge) {
    return grantor.get(edge);
  }

  /** How it is held. */
  public Membership options(int edge) {
    return options[optionsOf.get(edge)];
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
