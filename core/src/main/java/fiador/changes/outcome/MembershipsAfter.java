package fiador.changes.outcome;

import fiador.changes.steps.DefaultRole;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.IntPredicate;

/** Who holds which role after some steps. */
final class MembershipsAfter {
  private static final int UNKNOWN = -2;

  private final Ground ground;
  private final Access base;
  private final Map<Held, Membership> held = new LinkedHashMap<>();
  private int founder = UNKNOWN;

  private record Held(int member, int role) {}

  MembershipsAfter(Ground ground) {
    this.ground = ground;
    this.base = ground.base;
  }

  /** Hands all of it to the estate to be. */
  void finish() {
    held.forEach(
        (key, how) -> {
          if (how != null) {
            ground.whatIf.join(key.member(), key.role(), how, None.PRINCIPAL);
          }
        });
  }

  void forget(int id) {
    held.keySet().removeIf(key -> key.member() == id || key.role() == id);
  }

  void join(int member, int role, Membership how) {
    ground.joining.add(member);
    leaveWhere(member, role, this::isOwn);
    boolean oneAtATime = base.rules().activation() == Activation.ONE_AT_A_TIME;
    boolean switches =
        ground.isUser(member)
            || member == Principals.PUBLIC && base.rules().has(HouseFact.EVERYBODY_SWITCHES);
    boolean fixed = base.rules().activation() == Activation.PER_MEMBERSHIP;
    Membership served =
        fixed
            ? how
            : oneAtATime
                ? Membership.of(how.admin(), !switches || isDefault(member, role), switches)
                : Membership.of(
                    how.admin(),
                    inheritsOtherwise(member),
                    base.rules().activation() != Activation.ALL_ON);
    held.put(new Held(member, role), served);
  }

  /** Takes what one gave, or with no grantor what anybody gave. */
  void leave(int member, int role, int grantor) {
    ground.joining.add(member);
    leaveWhere(member, role, edge -> grantor < 0 || base.memberships().grantor(edge) == grantor);
    if (grantor < 0 || grantor == founder()) {
      held.put(new Held(member, role), null);
    }
  }

  private void leaveWhere(int member, int role, IntPredicate meant) {
    if (ground.isOld(member) && ground.isOld(role)) {
      for (int edge : base.memberships().rolesOf().run(member)) {
        boolean given =
            base.memberships().role(edge) == role && !base.memberships().options(edge).implicit();
        if (given && meant.test(edge)) {
          ground.whatIf.leave(edge);
        }
      }
    }
  }

  /** Where a membership is its grantor's, giving it again leaves what others gave. */
  private boolean isOwn(int edge) {
    int by = base.memberships().grantor(edge);
    boolean each = base.rules().has(HouseFact.MEMBERSHIPS_BY_GRANTOR);
    return !each || by < 0 || by == founder();
  }

  /** Looked up once: it may take a look at every node. */
  private int founder() {
    founder = founder == UNKNOWN ? base.founder() : founder;
    return founder;
  }

  /** Who may give their default role on, or no longer, has it as default all the same. */
  private boolean isDefault(int member, int role) {
    Membership before = ground.isOld(member) ? base.memberships().held(member, role) : null;
    return before != null && before.inherit();
  }

  private boolean inheritsOtherwise(int member) {
    return !ground.isOld(member) || !base.principals().account(member).switching();
  }

  void defaultRole(DefaultRole step) {
    int member = ground.principal(step.member());
    ground.joining.add(member);
    if (ground.isOld(member)) {
      for (int edge : base.memberships().rolesOf().run(member)) {
        Membership how = base.memberships().options(edge);
        Held key = new Held(member, base.memberships().role(edge));
        if (!how.implicit() && !held.containsKey(key)) {
          ground.whatIf.leave(edge);
          held.put(key, how);
        }
      }
    }
    int on = step.role() == null ? -1 : ground.principal(step.role());
    held.replaceAll(
        (key, how) ->
            how == null || key.member() != member
                ? how
                : Membership.of(how.admin(), key.role() == on, true));
  }
}
