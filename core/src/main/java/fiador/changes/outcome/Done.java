package fiador.changes.outcome;

import fiador.changes.steps.About;
import fiador.changes.steps.AddOption;
import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.CreateRole;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.Deny;
import fiador.changes.steps.DropRole;
import fiador.changes.steps.DropUser;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.GrantLater;
import fiador.changes.steps.LetIn;
import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.LimitInTime;
import fiador.changes.steps.Meanwhile;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.Rename;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.SetPower;
import fiador.changes.steps.SightStep;
import fiador.changes.steps.Step;
import fiador.changes.steps.StepCases;
import fiador.changes.steps.TakeOption;
import fiador.changes.steps.TakeOver;
import fiador.changes.steps.TakeRole;
import fiador.changes.wanted.Rights;
import fiador.estate.Account;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Principals;
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
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** Which steps of a change a server already shows: after a stop half-way nobody else can tell. */
public final class Done {
  private final Access access;
  private final Tree tree;
  private final StepCases<Boolean> cases = new Cases();
  private final Map<On, On> names = new HashMap<>();

  /** Looks at that survey. */
  public Done(Access access) {
    this.access = access;
    this.tree = access.tree();
  }

  /** The steps that are still to be carried out, in their order. */
  public List<Step> missing(List<Step> steps) {
    List<Step> missing = new ArrayList<>();
    otherNames(steps);
    boolean others =
        steps.stream().anyMatch(step -> !Meanwhile.isPart(step, steps) && !isDone(step));
    ForAMoment moments = new ForAMoment(steps, this::isDone);
    for (int at = 0; at < steps.size(); at++) {
      Step step = steps.get(at);
      Meanwhile pair = Meanwhile.of(step, steps);
      boolean isMissing =
          moments.has(at)
              ? moments.isMissing(at)
              : pair == null ? !isDone(step) : pair.isMissing(step, others, this::isDone);
      if (isMissing) {
        missing.add(step);
      }
    }
    return missing;
  }

  /** What takes back those steps that took effect, the last one first. */
  public List<Step> undo(List<Step> steps) {
    List<Step> back = new ArrayList<>();
    otherNames(steps);
    ForAMoment moments = new ForAMoment(steps, this::isDone);
    for (int at = 0; at < steps.size(); at++) {
      Step step = steps.get(at);
      Meanwhile pair = Meanwhile.of(step, steps);
      boolean tookEffect =
          moments.has(at)
              ? moments.isTakenBack(at)
              : isDone(step) || pair != null && isDone(pair.opens());
      if (!step.takesOver() && tookEffect) {
        back.add(step.inverse());
      }
    }
    Collections.reverse(back);
    return HeldOnce.inOrder(access, back);
  }

  /**
   * What lifts denials that were to be there for a moment among those steps, and still are.
   *
   * @param meanwhile steps that are carried out in any case; what they lift is left out
   */
  public List<Step> lifts(List<Step> steps, List<Step> meanwhile) {
    otherNames(steps);
    return new ForAMoment(steps, this::isDone).lifts(meanwhile);
  }

  /** Steps know a table that moves by the name it has while it stands aside. */
  private void otherNames(List<Step> steps) {
    for (Step step : steps) {
      if (step instanceof MoveTable move) {
        names.put(move.aside() ? move.to() : move.from(), move.aside() ? move.from() : move.to());
      }
    }
  }

  /** Whether a step has taken effect. */
  public boolean isDone(Step step) {
    return step.match(cases);
  }

  /** How the survey shows each kind of step. */
  private final class Cases implements StepCases<Boolean> {
    @Override
    public Boolean createRole(CreateRole step) {
      return exists(step.role());
    }

    @Override
    public Boolean dropRole(DropRole step) {
      return !exists(step.role());
    }

    @Override
    public Boolean createUser(CreateUser step) {
      return exists(step.user());
    }

    @Override
    public Boolean dropUser(DropUser step) {
      return !exists(step.user());
    }

    @Override
    public Boolean rename(Rename step) {
      return exists(step.to()) && !exists(step.from());
    }

    @Override
    public Boolean letLogIn(LetLogIn step) {
      int id = access.principals().named(step.user());
      return id >= 0 && canLogIn(id) == step.enabled();
    }

    @Override
    public Boolean limitInTime(LimitInTime step) {
      int id = access.principals().named(step.user());
      Account account = id < 0 ? Account.PLAIN : access.principals().account(id);
      return Objects.equals(account.until(), step.until());
    }

    @Override
    public Boolean limitAccount(LimitAccount step) {
      int id = access.principals().named(step.user());
      Account account = id < 0 ? Account.PLAIN : access.principals().account(id);
      return account.limits().equals(step.after());
    }

    @Override
    public Boolean setPower(SetPower step) {
      int id = access.principals().named(step.principal());
      return id >= 0 && access.principals().has(id, step.power()) == step.given();
    }

    @Override
    public Boolean giveRole(GiveRole step) {
      return isHeld(step);
    }

    @Override
    public Boolean takeRole(TakeRole step) {
      return membership(step.member(), step.role(), step.grantor()) == null;
    }

    @Override
    public Boolean takeOver(TakeOver step) {
      return isDone(step.taken());
    }

    @Override
    public Boolean letIn(LetIn step) {
      return isDone(step.taking());
    }

    @Override
    public Boolean defaultRole(DefaultRole step) {
      return Objects.equals(Done.this.defaultRole(step.member()), step.role());
    }

    @Override
    public Boolean grant(Grant step) {
      boolean given = given(step.about(), step.privileges(), false);
      return given && (!step.grantOption() || given(step.about(), step.privileges(), true));
    }

    @Override
    public Boolean revoke(Revoke step) {
      return gone(step.about(), step.privileges(), false);
    }

    @Override
    public Boolean addOption(AddOption step) {
      return given(step.about(), step.privileges(), true);
    }

    @Override
    public Boolean takeOption(TakeOption step) {
      return gone(step.about(), step.privileges(), true);
    }

    @Override
    public Boolean deny(Deny step) {
      long denied = denied(step);
      return step.lifted()
          ? (denied & step.privileges()) == 0
          : (denied & step.privileges()) == step.privileges();
    }

    @Override
    public Boolean grantLater(GrantLater step) {
      long given = later(step.creator(), step.schema(), step.kind(), step.grantee());
      return (given & step.privileges()) == step.privileges();
    }

    @Override
    public Boolean revokeLater(RevokeLater step) {
      long given = later(step.creator(), step.schema(), step.kind(), step.grantee());
      return (given & step.privileges()) == 0;
    }

    @Override
    public Boolean changeOwner(ChangeOwner step) {
      int node = node(step.on());
      int is = node < 0 ? -1 : tree.owner(node);
      return is >= 0 && access.principals().name(is).equals(step.owner());
    }

    @Override
    public Boolean sight(SightStep step) {
      return step.matchSight(new SightsDone(access));
    }
  }

  /** What somebody is denied on a thing, or on all of some columns; of any where it is lifted. */
  private long denied(Deny step) {
    int node = node(step.on());
    Rights denied = Rights.denied(access, access.principals().named(step.who()), node);
    if (step.columns().isEmpty()) {
      return denied.whole;
    }
    long found = step.lifted() ? 0 : -1L;
    for (String column : step.columns()) {
      long on = denied.on(tree.columnNamed(node, column));
      found = step.lifted() ? found | on : found & on;
    }
    return found;
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
      boolean theirs = access.memberships().grantor(edge) == by;
      if (access.memberships().role(edge) == of && theirs && !how.implicit()) {
        return how;
      }
    }
    return null;
  }

  private boolean isHeld(GiveRole give) {
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

  private int node(On on) {
    int found = Places.find(tree, on);
    On other = found < 0 ? names.get(on) : null;
    return other == null ? found : Places.find(tree, other);
  }

  private long bits(int grantee, int node, int column, boolean option) {
    return bits(grantee, node, column, option, None.PRINCIPAL);
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
          terms.isByName()
              || terms.label() == Terms.NO_LABEL
                  && access.patterns().get(terms.pattern()).isOf(tree.name(node));
      boolean theirs = grantor < 0 || grants.grantor(row) < 0 || grants.grantor(row) == grantor;
      if (grants.grantee(row) == grantee && here && theirs && named) {
        bits |= option ? terms.grantable() : terms.privileges();
      }
    }
    return bits;
  }

  private static boolean contains(int[] ordinals, int column) {
    return java.util.Arrays.binarySearch(ordinals, column) >= 0;
  }

  private boolean given(About about, long privileges, boolean option) {
    int grantee = access.principals().named(about.holder());
    int node = node(about.on());
    List<String> columns = about.columns();
    if (grantee < 0 || node < 0) {
      return false;
    }
    boolean byPlace = option && access.accounts() != null;
    if (columns.isEmpty() || byPlace) {
      long bits = bits(grantee, node, None.COLUMN, option);
      return byPlace ? bits != 0 : (bits & privileges) == privileges;
    }
    return columns.stream()
        .mapToInt(column -> tree.columnNamed(node, column))
        .allMatch(
            column ->
                column >= 0 && (bits(grantee, node, column, option) & privileges) == privileges);
  }

  private boolean gone(About about, long privileges, boolean option) {
    int grantee = access.principals().named(about.holder());
    int node = node(about.on());
    List<String> columns = about.columns();
    String grantor = about.grantor();
    if (grantee < 0 || node < 0) {
      return true;
    }
    int by =
        !access.rules().has(HouseFact.GRANTORS_COUNT)
            ? -1
            : grantor == null ? tree.owner(node) : access.principals().named(grantor);
    if (columns.isEmpty()) {
      return (bits(grantee, node, None.COLUMN, option, by) & privileges) == 0;
    }
    return columns.stream()
        .mapToInt(column -> tree.columnNamed(node, column))
        .filter(column -> column >= 0)
        .allMatch(column -> (bits(grantee, node, column, option, by) & privileges) == 0);
  }

  private long later(String creator, On in, NodeKind kind, String grantee) {
    int container = node(in);
    boolean everybody = grantee.equals(access.principals().name(Principals.PUBLIC));
    long bits = everybody ? LaterGrant.openToAll(access, creator, container, kind) : 0;
    for (LaterGrant later : access.later()) {
      boolean same =
          later.creator() >= 0
              && access.principals().name(later.creator()).equals(creator)
              && later.in() == container
              && later.kind() == kind;
      for (LaterGrant.Given given : same ? later.given() : List.<LaterGrant.Given>of()) {
        boolean theirs = access.principals().name(given.grantee()).equals(grantee);
        bits |= theirs ? given.privileges() : 0;
      }
    }
    return bits;
  }
}
