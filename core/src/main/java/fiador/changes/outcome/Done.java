package fiador.changes.outcome;

import fiador.changes.steps.Meanwhile;
import fiador.changes.steps.Places;
import fiador.changes.steps.SightSteps;
import fiador.changes.steps.Step;
import fiador.estate.Account;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.LaterGrant;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Objects;

/** Which steps of a change a server already shows: after a stop half-way nobody else can tell. */
public final class Done {
  private final Access access;
  private final Tree tree;

  /** Looks at that survey. */
  public Done(Access access) {
    this.access = access;
    this.tree = access.tree();
  }

  /** The steps that are still to be carried out, in their order. */
  public List<Step> missing(List<Step> steps) {
    List<Step> missing = new ArrayList<>();
    boolean others =
        steps.stream().anyMatch(step -> !Meanwhile.isPart(step, steps) && !isDone(step));
    for (Step step : steps) {
      Meanwhile pair = Meanwhile.of(step, steps);
      if (pair == null ? !isDone(step) : pair.isMissing(step, others, this::isDone)) {
        missing.add(step);
      }
    }
    return missing;
  }

  /** What takes back those steps that took effect, the last one first. */
  public List<Step> undo(List<Step> steps) {
    List<Step> back = new ArrayList<>();
    steps.stream()
        .filter(step -> !step.takesOver())
        .filter(
            step -> {
              Meanwhile pair = Meanwhile.of(step, steps);
              return isDone(step) || pair != null && isDone(pair.opens());
            })
        .forEach(step -> back.add(step.inverse()));
    Collections.reverse(back);
    return back;
  }

  /** Whether a step has taken effect. */
  public boolean isDone(Step step) {
    if (SightSteps.isAbout(step)) {
      return SightSteps.isDone(access, step);
    } else if (step instanceof Step.TakeOver over) {
      return isDone(over.taken());
    } else if (step instanceof Step.LetIn in) {
      return isDone(in.taking());
    } else if (step instanceof Step.CreateRole role) {
      return exists(role.role());
    } else if (step instanceof Step.CreateUser user) {
      return exists(user.user());
    } else if (step instanceof Step.DropRole role) {
      return !exists(role.role());
    } else if (step instanceof Step.DropUser user) {
      return !exists(user.user());
    } else if (step instanceof Step.LetLogIn login) {
      int id = access.principals().named(login.user());
      return id >= 0 && canLogIn(id) == login.enabled();
    } else if (step instanceof Step.LimitInTime limit) {
      int id = access.principals().named(limit.user());
      Account account = id < 0 ? Account.PLAIN : access.principals().account(id);
      return Objects.equals(account.until(), limit.until());
    } else if (step instanceof Step.GiveRole give) {
      return isHeld(give);
    } else if (step instanceof Step.TakeRole take) {
      return membership(take.member(), take.role(), take.grantor()) == null;
    } else if (step instanceof Step.DefaultRole role) {
      return Objects.equals(defaultRole(role.member()), role.role());
    } else if (step instanceof Step.Grant grant) {
      boolean given =
          given(grant.grantee(), grant.on(), grant.columns(), grant.privileges(), false);
      return given
          && (!grant.grantOption()
              || given(grant.grantee(), grant.on(), grant.columns(), grant.privileges(), true));
    } else if (step instanceof Step.AddOption add) {
      return given(add.grantee(), add.on(), add.columns(), add.privileges(), true);
    } else if (step instanceof Step.Revoke revoke) {
      return gone(
          revoke.grantee(),
          revoke.on(),
          revoke.columns(),
          revoke.privileges(),
          false,
          revoke.grantor());
    } else if (step instanceof Step.TakeOption take) {
      return gone(
          take.grantee(), take.on(), take.columns(), take.privileges(), true, take.grantor());
    } else if (step instanceof Step.GrantLater later) {
      long given = later(later.creator(), later.schema(), later.kind(), later.grantee());
      return (given & later.privileges()) == later.privileges();
    } else if (step instanceof Step.RevokeLater later) {
      long given = later(later.creator(), later.schema(), later.kind(), later.grantee());
      return (given & later.privileges()) == 0;
    }
    Step.ChangeOwner owner = (Step.ChangeOwner) step;
    int node = node(owner.on());
    int is = node < 0 ? -1 : tree.owner(node);
    return is >= 0 && access.principals().name(is).equals(owner.owner());
  }

  private boolean exists(String name) {
    return access.principals().named(name) >= 0;
  }

  private boolean canLogIn(int id) {
    return access.principals().isUser(id) && !access.principals().account(id).disabled();
  }

  /** How somebody holds a role from a grantor, or where none is named from anybody; or null. */
  private Membership membership(String member, String role, String grantor) {
    int id = access.principals().named(member);
    int of = access.principals().named(role);
    if (grantor == null) {
      return id < 0 || of < 0 ? null : access.memberships().held(id, of);
    }
    int by = access.principals().named(grantor);
    for (int edge : id < 0 ? new int[0] : access.memberships().rolesOf().run(id)) {
      Membership how = access.memberships().options(edge);
      boolean his = access.memberships().grantor(edge) == by;
      if (access.memberships().role(edge) == of && his && !how.implicit()) {
        return how;
      }
    }
    return null;
  }

  private boolean isHeld(Step.GiveRole give) {
    Membership how = membership(give.member(), give.role(), null);
    if (how == null || how.admin() != give.how().admin()) {
      return false;
    }
    Membership before = give.before();
    boolean turned = before != null && before.inherit() != give.how().inherit();
    return !turned || how.inherit() == give.how().inherit();
  }

  private String defaultRole(String member) {
    int id = access.principals().named(member);
    for (int edge : id < 0 ? new int[0] : access.memberships().rolesOf().run(id)) {
      Membership how = access.memberships().options(edge);
      if (how.inherit() && !how.implicit()) {
        return access.principals().name(access.memberships().role(edge));
      }
    }
    return null;
  }

  private int node(Step.On on) {
    return Places.find(tree, on);
  }

  private long bits(int grantee, int node, int column, boolean option) {
    return bits(grantee, node, column, option, -1);
  }

  private long bits(int grantee, int node, int column, boolean option, int grantor) {
    long bits = 0;
    Grants grants = access.grants();
    for (int row : grants.byNode().run(node)) {
      Terms terms = grants.terms(row);
      boolean here =
          column < 0
              ? grants.columns(row) == ColumnSets.WHOLE
              : grants.columns(row) != ColumnSets.WHOLE
                  && contains(access.columnSets().ordinals(grants.columns(row)), column);
      boolean named =
          terms.pattern() == Terms.NO_PATTERN
              || access.patterns().get(terms.pattern()).isOf(tree.name(node));
      boolean his = grantor < 0 || grants.grantor(row) < 0 || grants.grantor(row) == grantor;
      if (grants.grantee(row) == grantee && here && his && named) {
        bits |= option ? terms.grantable() : terms.privileges();
      }
    }
    return bits;
  }

  private static boolean contains(int[] ordinals, int column) {
    return java.util.Arrays.binarySearch(ordinals, column) >= 0;
  }

  private boolean given(
      String name, Step.On on, List<String> columns, long privileges, boolean option) {
    int grantee = access.principals().named(name);
    int node = node(on);
    if (grantee < 0 || node < 0) {
      return false;
    }
    boolean byPlace = option && access.accounts() != null;
    if (columns.isEmpty() || byPlace) {
      long bits = bits(grantee, node, -1, option);
      return byPlace ? bits != 0 : (bits & privileges) == privileges;
    }
    return columns.stream()
        .mapToInt(column -> tree.columnNamed(node, column))
        .allMatch(
            column ->
                column >= 0 && (bits(grantee, node, column, option) & privileges) == privileges);
  }

  private boolean gone(
      String name,
      Step.On on,
      List<String> columns,
      long privileges,
      boolean option,
      String grantor) {
    int grantee = access.principals().named(name);
    int node = node(on);
    if (grantee < 0 || node < 0) {
      return true;
    }
    int by =
        !access.rules().has(HouseFact.GRANTORS_COUNT)
            ? -1
            : grantor == null ? tree.owner(node) : access.principals().named(grantor);
    if (columns.isEmpty()) {
      return (bits(grantee, node, -1, option, by) & privileges) == 0;
    }
    return columns.stream()
        .mapToInt(column -> tree.columnNamed(node, column))
        .filter(column -> column >= 0)
        .allMatch(column -> (bits(grantee, node, column, option, by) & privileges) == 0);
  }

  private long later(String creator, Step.On in, NodeKind kind, String grantee) {
    int container = node(in);
    long bits = 0;
    for (LaterGrant later : access.later()) {
      boolean same =
          later.creator() >= 0
              && access.principals().name(later.creator()).equals(creator)
              && later.in() == container
              && later.kind() == kind;
      for (LaterGrant.Given given : same ? later.given() : List.<LaterGrant.Given>of()) {
        boolean his = access.principals().name(given.grantee()).equals(grantee);
        bits |= his ? given.privileges() : 0;
      }
    }
    return bits;
  }
}
