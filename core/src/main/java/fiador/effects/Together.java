package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.Ownership;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Whether somebody has several things in one session: after login, or after switching to one role.
 * Cost: a user's holdings on each of the nodes.
 */
public final class Together {
  private final Access access;
  private final Tree tree;
  private final Gates gates;
  private final Holdings holdings;

  /** Parameters as for {@link Holdings}. */
  public Together(Access access, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.gates = new Gates(access);
    this.holdings = new Holdings(access, clock, true);
  }

  /**
   * The answer.
   *
   * @param state of all of them: live, on request, or null where no session has all
   * @param role to switch to first; -1 where that is not needed, or does not help
   * @param has of each, in the order asked: whether that session has it, the one that has most
   */
  public record Result(State state, int role, List<Boolean> has) {}

  /** For a user, in any of their sessions; the one after login is preferred. */
  public Result of(int user, List<Need> needs) {
    Map<Integer, BitSet> bySession = new LinkedHashMap<>();
    for (int i = 0; i < needs.size(); i++) {
      Need need = needs.get(i);
      int index = i;
      holdings.inEachSession(
          user,
          need.node(),
          (login, acting, rows) -> {
            BitSet has =
                bySession.computeIfAbsent(
                    acting == login ? None.PRINCIPAL : acting.self(), fresh -> new BitSet());
            if (has(need, login, acting, rows)) {
              has.set(index);
            }
          });
    }
    int best = None.PRINCIPAL;
    for (int role : bySession.keySet()) {
      if (bySession.get(role).cardinality() > bySession.get(best).cardinality()) {
        best = role;
      }
    }
    List<Boolean> has = new ArrayList<>();
    BitSet most = bySession.getOrDefault(best, new BitSet());
    for (int i = 0; i < needs.size(); i++) {
      has.add(most.get(i));
    }
    boolean all = most.cardinality() == needs.size();
    State state = !all ? null : best < 0 ? State.LIVE : State.ON_REQUEST;
    return new Result(state, best, has);
  }

  private boolean has(Need need, Session login, Session acting, List<Holding> rows) {
    if (need instanceof Need.Ownership) {
      return owns(need.node(), acting)
          && gates.blocked(need.node(), PrivilegeSet.EVERY, login, acting) != PrivilegeSet.EVERY;
    }
    Need.Right right = (Need.Right) need;
    for (long rest = right.anyOf(); rest != 0; rest &= rest - 1) {
      long privilege = Long.lowestOneBit(rest);
      BitSet on = new BitSet();
      for (Holding row : rows) {
        if (row.privilege().bit() == privilege && row.state() == State.LIVE) {
          if (row.columns() == null) {
            return true;
          }
          on.or(row.columns());
        }
      }
      boolean covered = right.columns() != null && !right.columns().isEmpty();
      for (int c = covered ? right.columns().nextSetBit(0) : -1;
          c >= 0;
          c = right.columns().nextSetBit(c + 1)) {
        covered &= on.get(c);
      }
      if (covered || right.anyPart() && isAnyPart(need.node(), on)) {
        return true;
      }
    }
    return false;
  }

  /** A right on a column that the server adds to every table is no right on any part of it. */
  private boolean isAnyPart(int node, BitSet on) {
    return on.stream()
        .anyMatch(column -> !access.rules().systemColumns().contains(tree.column(node, column)));
  }

  /** Whether a session owns a thing, or may drop it as the owner of what it lies in. */
  private boolean owns(int node, Session session) {
    if (session.isSuperuser()) {
      return true;
    }
    int schema = tree.enclosing(node, NodeKind.SCHEMA);
    boolean schemaIsEnough = access.rules().ownership() != Ownership.NONE && schema >= 0;
    return tree.owner(node) >= 0 && session.contains(tree.owner(node))
        || schemaIsEnough && tree.owner(schema) >= 0 && session.contains(tree.owner(schema));
  }
}
