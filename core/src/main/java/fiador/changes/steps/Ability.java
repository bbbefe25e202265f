package fiador.changes.steps;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.Insiders;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * What somebody would lack who carries steps out, so that it is known before the first of them and
 * not half-way. Cost: the steps, and what they hold on the things they are about.
 */
public final class Ability {
  private final Access access;
  final Tree tree;
  private final int who;
  private final Holdings holdings;
  private final IntOpenHashSet roles;
  final boolean byHost;
  private final boolean owners;
  private final boolean superuser;
  private final Insiders insiders;
  private final StepCases<Void> about = new Cases();
  private final SightCases<Void> aboutSight = new SightAbility(this);
  private final Set<String> made = new HashSet<>();
  private final Map<Integer, List<Holding>> held = new HashMap<>();
  private final Map<String, Integer> lacking = new LinkedHashMap<>();

  private Ability(Access access, int who, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.who = who;
    this.holdings = new Holdings(access, clock, true);
    this.roles = rolesOf(who);
    this.byHost = access.rules().has(HouseFact.ACCOUNTS_BY_HOST);
    this.owners = access.rules().has(HouseFact.CHANGES_OWNERS);
    this.superuser = access.isSuperuser(who);
    this.insiders = new Insiders(access);
  }

  /**
   * What is lacking, each with how many steps it stops.
   *
   * @param access the server as it is, with the views that the steps make
   * @param login who carries them out, by the name given at login
   * @return empty where nothing is lacking, and where it cannot be told which account that is
   */
  public static Map<String, Integer> lacking(
      Access access, String login, List<Step> steps, Clock clock) {
    int who = account(access, login);
    if (who < 0) {
      return Map.of();
    }
    Ability ability = new Ability(access, who, clock);
    if (!ability.superuser || access.tree().sealed().size() > 0) {
      steps.forEach(ability::needs);
    }
    return ability.lacking;
  }

  /** The account of a login; -1 where several could be meant. */
  private static int account(Access access, String login) {
    if (!access.rules().has(HouseFact.ACCOUNTS_BY_HOST)) {
      int exact = access.principals().named(login);
      return exact >= 0 ? exact : access.principals().named(login.toUpperCase(Locale.ROOT));
    }
    int found = -1;
    for (int id = 1; id < access.principals().size(); id++) {
      if (access.principals().isUser(id) && access.bareName(id).equals(login)) {
        if (found >= 0) {
          return -1;
        }
        found = id;
      }
    }
    return found;
  }

  private IntOpenHashSet rolesOf(int member) {
    IntArrayList open = IntArrayList.of(member);
    IntOpenHashSet reached = new IntOpenHashSet(open);
    Memberships all = access.memberships();
    while (!open.isEmpty()) {
      for (int edge : all.rolesOf().run(open.popInt())) {
        if (reached.add(all.role(edge))) {
          open.add(all.role(edge));
        }
      }
    }
    return reached;
  }

  private void lacks(String what) {
    if (!superuser) {
      lacking.merge(what, 1, Integer::sum);
    }
  }

  /** What is sealed keeps superusers out too. */
  private void entering(int node) {
    if (node >= 0 && insiders.isOut(who, node)) {
      lacking.merge("to be let in where " + place(node) + " is sealed", 1, Integer::sum);
    }
  }

  private void needs(Step step) {
    if (!byHost && !owners) {
      lacks("the role DBA");
    } else {
      step.match(about);
    }
  }

  /** What each kind of step needs. */
  private final class Cases implements StepCases<Void> {
    @Override
    public Void createRole(CreateRole step) {
      made.add(step.role());
      managing();
      return null;
    }

    @Override
    public Void dropRole(DropRole step) {
      managing();
      return null;
    }

    @Override
    public Void createUser(CreateUser step) {
      managing();
      return null;
    }

    @Override
    public Void dropUser(DropUser step) {
      managing();
      return null;
    }

    @Override
    public Void rename(Rename step) {
      made.add(step.to());
      managing();
      return null;
    }

    @Override
    public Void letLogIn(LetLogIn step) {
      managing();
      return null;
    }

    @Override
    public Void limitInTime(LimitInTime step) {
      managing();
      return null;
    }

    @Override
    public Void limitAccount(LimitAccount step) {
      managing();
      return null;
    }

    @Override
    public Void setPower(SetPower step) {
      managing();
      if (step.given() && !access.principals().has(who, step.power())) {
        lacks("the power " + step.power().text());
      }
      return null;
    }

    @Override
    public Void giveRole(GiveRole step) {
      giving(step.role());
      return null;
    }

    @Override
    public Void takeRole(TakeRole step) {
      giving(step.role());
      return null;
    }

    @Override
    public Void takeOver(TakeOver step) {
      needs(step.given());
      needs(step.taken());
      return null;
    }

    @Override
    public Void letIn(LetIn step) {
      needs(step.taking());
      return null;
    }

    @Override
    public Void defaultRole(DefaultRole step) {
      holding(Privilege.UPDATE.bit(), schema("mysql"), false, "mysql.*");
      return null;
    }

    @Override
    public Void grant(Grant step) {
      granting(step.privileges(), step.on());
      return null;
    }

    @Override
    public Void revoke(Revoke step) {
      granting(step.privileges(), step.on());
      return null;
    }

    @Override
    public Void addOption(AddOption step) {
      granting(step.privileges(), step.on());
      return null;
    }

    @Override
    public Void takeOption(TakeOption step) {
      granting(step.privileges(), step.on());
      return null;
    }

    @Override
    public Void deny(Deny step) {
      owning(step.on());
      return null;
    }

    @Override
    public Void grantLater(GrantLater step) {
      acting(step.creator());
      return null;
    }

    @Override
    public Void revokeLater(RevokeLater step) {
      acting(step.creator());
      return null;
    }

    @Override
    public Void changeOwner(ChangeOwner step) {
      owning(step.on());
      acting(step.owner());
      return null;
    }

    @Override
    public Void sight(SightStep step) {
      step.matchSight(aboutSight);
      return null;
    }
  }

  private void managing() {
    if (byHost) {
      holding(Privilege.CREATE_USER.bit(), 0, false, "*.*");
    } else if (!access.principals().has(who, Power.MANAGE_ROLES)) {
      lacks("CREATEROLE");
    }
  }

  private void giving(String role) {
    boolean any = access.rules().has(HouseFact.MANAGERS_TAKE_ANY_ROLE);
    boolean manages = access.principals().has(who, Power.MANAGE_ROLES);
    if (made.contains(role) || any && manages) {
      return;
    }
    int id = access.principals().named(role);
    boolean admin = false;
    for (int edge : id < 0 ? new int[0] : access.memberships().membersOf().run(id)) {
      Membership how = access.memberships().options(edge);
      admin |= how.admin() && roles.contains(access.memberships().member(edge));
    }
    if (!admin) {
      lacks("the right to give the role " + role + " on (WITH ADMIN OPTION)");
    }
  }

  private void granting(long privileges, On on) {
    int node = Places.find(tree, on);
    entering(node);
    boolean fresh = node >= 0 && owners && tree.owner(node) < 0;
    if (node >= 0 && !fresh) {
      holding(privileges, node, true, place(node) + " with GRANT OPTION");
    }
  }

  String place(int node) {
    return node == 0 ? "*.*" : tree.kind(node).text() + " " + tree.path(node);
  }

  void holding(long privileges, int node, boolean grantable, String where) {
    long missing = privileges;
    if (node >= 0) {
      for (Holding row : held.computeIfAbsent(node, at -> holdings.at(who, at))) {
        boolean counts = row.state() == State.LIVE && (row.grantable() || !grantable);
        missing &= counts && row.columns() == null ? ~row.privilege().bit() : -1L;
      }
    }
    if (missing != 0) {
      lacks(PrivilegeSet.text(missing).toUpperCase(Locale.ROOT) + " on " + where);
    }
  }

  int schema(String name) {
    return tree.child(0, name, node -> tree.kind(node) == NodeKind.SCHEMA);
  }

  void owning(On on) {
    int node = Places.find(tree, on);
    entering(node);
    if (node >= 0 && !roles.contains(tree.owner(node))) {
      lacks("to own " + place(node));
    }
  }

  private void acting(String role) {
    int id = access.principals().named(role);
    if (!made.contains(role) && !roles.contains(id)) {
      lacks("to be a member of " + role);
    }
  }

  /** Such as "CREATE USER on *.* (5 steps)", the most needed first. */
  public static List<String> inWords(Map<String, Integer> lacking) {
    List<Map.Entry<String, Integer>> sorted = new ArrayList<>(lacking.entrySet());
    sorted.sort(Map.Entry.<String, Integer>comparingByValue().reversed());
    return sorted.stream()
        .map(
            each ->
                each.getKey()
                    + " ("
                    + each.getValue()
                    + (each.getValue() == 1 ? " step)" : " steps)"))
        .toList();
  }
}
