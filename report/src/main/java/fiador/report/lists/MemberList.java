package fiador.report.lists;

import fiador.grants.Membership;
import fiador.grants.Reach;
import fiador.selection.Selection;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.io.IOException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Who holds which role. All direct memberships; where somebody is named, also those that come
 * through other roles.
 */
final class MemberList implements Listing {
  private final Source source;
  private final Selection selection;

  MemberList(Source source) {
    this.source = source;
    this.selection = source.selection();
  }

  @Override
  public List<String> fields() {
    return List.of(
        "member", "kind", "role", "through", "admin", "inherit", "set", "by", "until", "implicit");
  }

  @Override
  public Counted counted() {
    return new Counted("membership", "memberships");
  }

  @Override
  public String remark() {
    return selection.namesPeople()
        ? ""
        : "direct ones; --role and --to also list who holds a role through others";
  }

  @Override
  public void rows(Sink sink) throws IOException {
    var memberships = source.access().memberships();
    for (int edge = 0; edge < memberships.size(); edge++) {
      int member = memberships.member(edge);
      int role = memberships.role(edge);
      boolean wanted = selection.member(member) && selection.ofRole(role);
      if (wanted && selection.gave(memberships.grantor(edge))) {
        sink.row(direct(edge).values());
      }
    }
    // who gave a role matters of a membership, and none is there where it comes through others
    if (selection.namesPeople() && !selection.namesGivers()) {
      inherited(sink);
    }
  }

  private Row direct(int edge) {
    var memberships = source.access().memberships();
    Membership how = memberships.options(edge);
    return row(memberships.member(edge), memberships.role(edge))
        .truth("admin", how.admin())
        .truth("inherit", how.inherit())
        .truth("set", how.set())
        .put("by", source.principal(memberships.grantor(edge)))
        .put("until", Source.until(how.until()))
        .put("implicit", how.implicit());
  }

  private Row row(int member, int role) {
    return new Row()
        .put("member", source.principal(member))
        .put("kind", source.kind(member))
        .put("role", source.principal(role));
  }

  /** Those whose roles are worth following. */
  private List<Integer> holders(Reach reach) {
    BitSet named = new BitSet();
    for (int id = 1; id < source.people().size(); id++) {
      named.set(id, selection.ofRole(id));
    }
    boolean byRole = named.cardinality() < source.people().size() - 1;
    BitSet members = new BitSet();
    if (byRole) {
      named.stream().forEach(role -> reach.below(role).forEach(members::set));
    } else {
      members.set(1, source.people().size());
    }
    return members.stream().filter(selection::member).boxed().toList();
  }

  private void inherited(Sink sink) throws IOException {
    Reach reach = new Reach(source.access());
    for (int member : holders(reach)) {
      IntArrayList held = reach.up(member);
      for (int i = 1; i < held.size(); i++) {
        int role = held.getInt(i);
        if (selection.ofRole(role) && source.access().memberships().held(member, role) == null) {
          List<String> through = new ArrayList<>();
          IntArrayList chain = reach.chain(member, role);
          for (int at = 1; at < chain.size() - 1; at++) {
            through.add(source.principal(chain.getInt(at)));
          }
          sink.row(row(member, role).put("through", through).values());
        }
      }
    }
  }
}
