package fiador.changes.outcome;

import fiador.changes.steps.Places;
import fiador.changes.steps.SightSteps;
import fiador.changes.steps.Step;
import fiador.estate.Account;
import fiador.estate.NodeKind;
import fiador.estate.PrincipalKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.LaterGrant;
import fiador.grants.Membership;
import fiador.grants.SchemaPattern;
import fiador.grants.Terms;
import fiador.grants.WhatIf;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/**
 * What an estate is after some steps, as an overlay of what it is. Cost: the steps, and the grants
 * on the nodes they speak about.
 */
public final class Outcome {
  /** From so many steps on all principals are looked up at once. */
  private static final int MANY = 500;

  private final Access base;
  private final Tree tree;
  private final WhatIf whatIf;
  private final boolean byHost;
  private final Map<String, Integer> created = new HashMap<>();
  private final Map<String, Integer> known;
  private final Map<Key, List<Row>> rows = new LinkedHashMap<>();
  private final Map<Key, Membership> members = new LinkedHashMap<>();
  private final List<SchemaPattern> patterns;
  private final List<LaterGrant> later;
  private final IntOpenHashSet principals = new IntOpenHashSet();
  private final IntOpenHashSet nodes = new IntOpenHashSet();
  private final IntOpenHashSet joining = new IntOpenHashSet();

  /** A grantee and a node, or a member and a role. */
  private record Key(int left, int right) {}

  private record Row(Terms terms, int columns, int grantor) {}

  /**
   * The estate after the steps, and where to look for a difference.
   *
   * @param after the estate
   * @param grantees those to whom or from whom grants went
   * @param nodes the nodes they are on, or that changed their owner
   * @param members those whose memberships or logins changed
   */
  public record Result(
      Access after, IntOpenHashSet grantees, IntOpenHashSet nodes, IntOpenHashSet members) {}

  private Outcome(Access base, boolean many) {
    this.base = base;
    this.known = many ? base.principals().byName() : new HashMap<>();
    this.tree = base.tree();
    this.whatIf = new WhatIf(base);
    this.byHost = base.rules().has(HouseFact.ACCOUNTS_BY_HOST);
    this.patterns = new ArrayList<>(base.patterns());
    this.later = new ArrayList<>(base.later());
  }

  /**
   * Works the steps in.
   *
   * @throws IllegalArgumentException when a step speaks about something that is not there
   */
  public static Result of(Access base, List<Step> steps) {
    Outcome outcome = new Outcome(base, steps.size() > MANY);
    steps.forEach(outcome::apply);
    Result result = outcome.result();
    Access after = result.after().withSights(SightsAfter.of(base, steps));
    return new Result(after, result.grantees(), result.nodes(), result.members());
  }

  private Result result() {
    rows.forEach(
        (key, list) ->
            list.forEach(
                row -> {
                  if ((row.terms().privileges() | row.terms().grantable()) != 0) {
                    whatIf.grant(
                        key.left(), key.right(), row.terms(), row.columns(), row.grantor());
                  }
                }));
    members.forEach(
        (key, how) -> {
          if (how != null) {
            whatIf.join(key.left(), key.right(), how, -1);
          }
        });
    if (!patterns.equals(base.patterns())) {
      whatIf.patterns(patterns);
    }
    whatIf.later(later);
    return new Result(whatIf.access(), principals, nodes, joining);
  }

  private void apply(Step step) {
    if (SightSteps.isAbout(step)) {
      return;
    }
    if (step instanceof Step.TakeOver over) {
      apply(over.given());
      apply(over.taken());
    } else if (step instanceof Step.LetIn in) {
      apply(in.taking());
    } else if (step instanceof Step.CreateRole role) {
      create(PrincipalKind.ROLE, role.role());
    } else if (step instanceof Step.CreateUser user) {
      create(PrincipalKind.USER, user.user());
    } else if (step instanceof Step.DropRole role) {
      drop(role.role());
    } else if (step instanceof Step.DropUser user) {
      drop(user.user());
    } else if (step instanceof Step.LetLogIn login) {
      int id = principal(login.user());
      joining.add(id);
      if (id < base.principals().size()) {
        Account old = base.principals().account(id);
        whatIf.account(id, old.with(!login.enabled(), old.until()));
      }
    } else if (step instanceof Step.GiveRole give) {
      join(principal(give.member()), principal(give.role()), give.how());
    } else if (step instanceof Step.TakeRole take) {
      leave(
          principal(take.member()),
          principal(take.role()),
          take.grantor() == null ? -1 : principal(take.grantor()));
    } else if (step instanceof Step.DefaultRole role) {
      defaultRole(role);
    } else if (step instanceof Step.Grant grant) {
      grant(grant);
    } else if (step instanceof Step.Revoke revoke) {
      edit(
          revoke.grantee(),
          revoke.on(),
          revoke.columns(),
          revoke.privileges(),
          true,
          revoke.withOption() || !byHost,
          revoke.grantor());
    } else if (step instanceof Step.TakeOption take) {
      edit(
          take.grantee(),
          take.on(),
          take.columns(),
          take.privileges(),
          false,
          true,
          take.grantor());
    } else if (step instanceof Step.AddOption add) {
      Step.Grant grant =
          new Step.Grant(add.privileges(), add.on(), add.columns(), add.grantee(), true);
      grant(grant);
    } else if (step instanceof Step.ChangeOwner owner) {
      changeOwner(node(owner.on()), principal(owner.owner()));
    }
    // grants for later objects and time limits change nothing that anybody holds now
  }

  /**
   * What the old owner gave and was given is the new one's, and what the new one had from the old
   * one comes to what he keeps for himself.
   *
   * <p>Source: PostgreSQL, aclnewowner in acl.c.
   */
  private void changeOwner(int node, int owner) {
    int old = tree.owner(node);
    touched(owner, node);
    joining.add(owner);
    if (old >= 0) {
      touched(old, node);
    }
    long kept = base.rules().privilegesOn(tree.kind(node)) & ~tree.withheld(node);
    if (base.rules().has(HouseFact.GRANTORS_COUNT) && old >= 0) {
      IntOpenHashSet grantees = new IntOpenHashSet(List.of(old, owner));
      for (int row : base.grants().byNode().run(node)) {
        grantees.add(base.grants().grantee(row));
      }
      for (int grantee : grantees.toIntArray()) {
        List<Row> his = rows(grantee, node);
        List<Row> moved = new ArrayList<>();
        for (Row row : his) {
          moved.add(
              new Row(row.terms(), row.columns(), row.grantor() == old ? owner : row.grantor()));
        }
        his.clear();
        rows(grantee == old ? owner : grantee, node).addAll(moved);
      }
      List<Row> own = rows(owner, node);
      for (Row row : own) {
        boolean fromHimself = row.grantor() == owner && row.columns() == ColumnSets.WHOLE;
        kept |= fromHimself ? row.terms().privileges() : 0;
      }
      own.removeIf(row -> row.grantor() == owner && row.columns() == ColumnSets.WHOLE);
    }
    whatIf.owner(node, owner, base.rules().privilegesOn(tree.kind(node)) & ~kept);
  }

  private void create(PrincipalKind kind, String name) {
    int id = whatIf.principal(kind, name);
    created.put(name, id);
    joining.add(id);
  }

  private void drop(String name) {
    int id = principal(name);
    joining.add(id);
    principals.add(id);
    for (int edge : base.memberships().membersOf().run(id)) {
      joining.add(base.memberships().member(edge));
    }
    for (int row : base.grants().byGrantee().run(id)) {
      nodes.add(base.grants().node(row));
    }
    whatIf.drop(id);
    patterns.removeIf(pattern -> pattern.grantee() == id);
    rows.keySet().removeIf(key -> key.left() == id);
    members.keySet().removeIf(key -> key.left() == id || key.right() == id);
  }

  private int principal(String name) {
    Integer fresh = created.get(name);
    int id = fresh == null ? known.computeIfAbsent(name, base.principals()::named) : fresh;
    if (id < 0) {
      throw new IllegalArgumentException("there is no user or role " + name);
    }
    return id;
  }

  private int node(Step.On on) {
    return Places.node(tree, on);
  }

  /** Takes what one gave, or with no grantor what anybody gave. */
  private void leave(int member, int role, int grantor) {
    joining.add(member);
    leaveWhere(member, role, edge -> grantor < 0 || base.memberships().grantor(edge) == grantor);
    if (grantor < 0 || grantor == base.founder()) {
      members.put(new Key(member, role), null);
    }
  }

  private void leaveWhere(int member, int role, IntPredicate meant) {
    if (member < base.principals().size() && role < base.principals().size()) {
      for (int edge : base.memberships().rolesOf().run(member)) {
        boolean given =
            base.memberships().role(edge) == role && !base.memberships().options(edge).implicit();
        if (given && meant.test(edge)) {
          whatIf.leave(edge);
        }
      }
    }
  }

  /** Where a membership is its grantor's, giving it again leaves what others gave. */
  private boolean isOwn(int edge) {
    int by = base.memberships().grantor(edge);
    boolean each = base.rules().has(HouseFact.MEMBERSHIPS_BY_GRANTOR);
    return !each || by < 0 || by == base.founder();
  }

  private void join(int member, int role, Membership how) {
    joining.add(member);
    leaveWhere(member, role, this::isOwn);
    boolean account = base.rules().activation() == Activation.ONE_AT_A_TIME && isUser(member);
    boolean oneAtATime = base.rules().activation() == Activation.ONE_AT_A_TIME;
    boolean fixed = base.rules().activation() == Activation.PER_MEMBERSHIP;
    Membership served =
        fixed
            ? how
            : oneAtATime
                ? Membership.of(how.admin(), !account || isDefault(member, role), account)
                : Membership.of(
                    how.admin(),
                    inheritsOtherwise(member),
                    base.rules().activation() != Activation.ALL_ON);
    members.put(new Key(member, role), served);
  }

  /** Who may give his default role on, or no longer, has it as default all the same. */
  private boolean isDefault(int member, int role) {
    Membership before =
        member < base.principals().size() ? base.memberships().held(member, role) : null;
    return before != null && before.inherit();
  }

  private boolean inheritsOtherwise(int member) {
    boolean known = member < base.principals().size();
    return !known || !base.principals().account(member).switching();
  }

  private boolean isUser(int id) {
    int known = base.principals().size();
    return id < known
        ? base.principals().isUser(id)
        : created.entrySet().stream().anyMatch(e -> e.getValue() == id && e.getKey().contains("@"));
  }

  private void defaultRole(Step.DefaultRole step) {
    int member = principal(step.member());
    joining.add(member);
    if (member < base.principals().size()) {
      for (int edge : base.memberships().rolesOf().run(member)) {
        Membership how = base.memberships().options(edge);
        Key key = new Key(member, base.memberships().role(edge));
        if (!how.implicit() && !members.containsKey(key)) {
          whatIf.leave(edge);
          members.put(key, how);
        }
      }
    }
    int on = step.role() == null ? -1 : principal(step.role());
    members.replaceAll(
        (key, how) ->
            how == null || key.left() != member
                ? how
                : Membership.of(how.admin(), key.right() == on, true));
  }

  private void grant(Step.Grant grant) {
    int grantee = principal(grant.grantee());
    int node = node(grant.on());
    long privileges = grant.privileges();
    long all = base.rules().privilegesOn(tree.kind(node));
    long grantable = !grant.grantOption() ? 0 : byHost ? all : privileges;
    touched(grantee, node);
    if (byHost && tree.kind(node) == NodeKind.SCHEMA) {
      pattern(grantee, node, privileges, grantable, true);
      return;
    }
    int covers = 0;
    for (NodeKind kind : NodeKind.values()) {
      boolean inside = kind != NodeKind.SERVER && byHost && tree.kind(node) == NodeKind.SERVER;
      covers |= inside ? kind.bit() : 0;
    }
    int columns = grant.columns().isEmpty() ? ColumnSets.WHOLE : columnSet(node, grant.columns());
    boolean optionOfTable = byHost && columns != ColumnSets.WHOLE;
    if (columns != ColumnSets.WHOLE && !base.rules().has(HouseFact.COLUMNS_APART)) {
      // what is held on the whole takes in what would be on columns
      for (Row row : rows(grantee, node)) {
        boolean whole = row.columns() == ColumnSets.WHOLE;
        privileges &= whole ? ~row.terms().privileges() | grantable : -1L;
      }
    }
    Terms terms = new Terms(privileges, optionOfTable ? 0 : grantable, covers, Terms.FOREVER);
    rows(grantee, node).add(new Row(terms, columns, tree.owner(node)));
    if (optionOfTable && grantable != 0) {
      rows(grantee, node).add(new Row(Terms.of(0, grantable), ColumnSets.WHOLE, -1));
    }
  }

  private void touched(int grantee, int node) {
    principals.add(grantee);
    nodes.add(node);
  }

  private int columnSet(int node, List<String> names) {
    return base.columnSets()
        .intern(names.stream().mapToInt(name -> tree.columnNamed(node, name)).sorted().toArray());
  }

  /** The rows of a grantee on a node, taken out of what is shared so that they can be edited. */
  private List<Row> rows(int grantee, int node) {
    return rows.computeIfAbsent(
        new Key(grantee, node),
        key -> {
          List<Row> found = new ArrayList<>();
          Grants grants = base.grants();
          for (int row : grants.byNode().run(node)) {
            if (grants.grantee(row) == grantee && grants.terms(row).pattern() == Terms.NO_PATTERN) {
              found.add(new Row(grants.terms(row), grants.columns(row), grants.grantor(row)));
              whatIf.revoke(row);
            }
          }
          return found;
        });
  }

  private void pattern(int grantee, int schema, long privileges, long grantable, boolean add) {
    String text = SchemaPattern.of(tree.name(schema));
    for (int i = 0; i < patterns.size(); i++) {
      SchemaPattern old = patterns.get(i);
      boolean same = old.isOf(tree.name(schema));
      if (old.grantee() == grantee && same) {
        long has = add ? old.privileges() | privileges : old.privileges() & ~privileges;
        long may = add ? old.grantable() | grantable : old.grantable() & ~grantable;
        if (has == 0 && may == 0) {
          patterns.remove(i);
        } else {
          patterns.set(i, new SchemaPattern(grantee, old.pattern(), has, may));
        }
        return;
      }
    }
    if (add) {
      patterns.add(new SchemaPattern(grantee, text, privileges, grantable));
    }
  }

  private void edit(
      String name,
      Step.On on,
      List<String> columns,
      long privileges,
      boolean takePrivilege,
      boolean takeOption,
      String grantor) {
    int grantee = principal(name);
    int node = node(on);
    touched(grantee, node);
    // what comes with all privileges only goes with the first of them that is taken
    long with = privileges | base.rules().neverGranted();
    long lost = takePrivilege ? with : 0;
    // where the right to grant is one for the place, taking a privilege leaves it
    long unable = takeOption ? (byHost ? -1 : with) : 0;
    if (byHost && tree.kind(node) == NodeKind.SCHEMA) {
      pattern(grantee, node, lost, unable, false);
      return;
    }
    List<Row> old = rows(grantee, node);
    List<Row> left = new ArrayList<>();
    int by = grantor == null ? tree.owner(node) : principal(grantor);
    for (Row row : old) {
      boolean his =
          !base.rules().has(HouseFact.GRANTORS_COUNT) || row.grantor() < 0 || row.grantor() == by;
      left.addAll(his ? edited(row, node, columns, lost, unable) : List.of(row));
    }
    old.clear();
    old.addAll(left);
  }

  /** What is left of a grant on the whole when columns are taken from it. */
  private List<Row> apart(Row row, int node, List<String> columns, Row less) {
    int[] others =
        IntStream.range(0, tree.columns(node))
            .filter(column -> !columns.contains(tree.column(node, column)))
            .toArray();
    long lost = row.terms().privileges() & ~less.terms().privileges();
    long unable = row.terms().grantable() & ~less.terms().grantable();
    if (others.length == 0) {
      return List.of(less);
    }
    Terms rest = new Terms(lost | unable, unable, 0, row.terms().until());
    return List.of(less, new Row(rest, base.columnSets().intern(others), row.grantor()));
  }

  private List<Row> edited(Row row, int node, List<String> columns, long lost, long unable) {
    Terms terms = row.terms();
    boolean whole = row.columns() == ColumnSets.WHOLE;
    Row less =
        new Row(
            new Terms(
                terms.privileges() & ~lost,
                terms.grantable() & ~unable,
                terms.covers(),
                terms.until()),
            row.columns(),
            row.grantor());
    if (columns.isEmpty()) {
      // taking from the whole takes from the columns
      return List.of(less);
    }
    if (whole && base.rules().has(HouseFact.COLUMNS_APART)) {
      return List.of(row);
    } else if (whole) {
      return apart(row, node, columns, less);
    }
    int[] named = base.columnSets().ordinals(columnSet(node, columns));
    IntOpenHashSet hit = new IntOpenHashSet(named);
    int[] in =
        Arrays.stream(base.columnSets().ordinals(row.columns())).filter(hit::contains).toArray();
    int[] out =
        Arrays.stream(base.columnSets().ordinals(row.columns()))
            .filter(ordinal -> !hit.contains(ordinal))
            .toArray();
    List<Row> split = new ArrayList<>();
    if (in.length > 0) {
      split.add(new Row(less.terms(), base.columnSets().intern(in), row.grantor()));
    }
    if (out.length > 0) {
      split.add(new Row(terms, base.columnSets().intern(out), row.grantor()));
    }
    return split;
  }
}
