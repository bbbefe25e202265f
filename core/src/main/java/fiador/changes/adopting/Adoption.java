package fiador.changes.adopting;

import fiador.changes.planning.GrantDifference;
import fiador.changes.steps.SetPower;
import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Rights;
import fiador.changes.wanted.Wanted.Governs;
import fiador.effects.Owned;
import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The charter of an estate as it is: what is governed and can be said, in as few sentences as its
 * regularity allows. Compared with the survey it comes from it leaves no gap.
 *
 * @param schemas what it governs
 * @param patterns roles that are alike but for the schema they are about
 * @param roles the other roles
 * @param users the users
 * @param builtIn roles of the server's own that somebody holds, which it governs by name
 * @param everybody what everybody holds and may, without a name; null where the charter leaves that
 *     alone
 * @param policies what decides on rows and columns
 * @param leftOut what no sentence of a charter is about, one sentence each
 */
public record Adoption(
    List<String> schemas,
    List<RolePatterns.Pattern> patterns,
    List<Entry> roles,
    List<Entry> users,
    List<String> builtIn,
    @Nullable Entry everybody,
    AdoptedPolicies policies,
    List<String> leftOut) {
  /** So many things with the same grant are worth an "every". */
  private static final int WORTH_EVERY = 2;

  static final Set<String> WORDS =
      Set.of(
          "all",
          "on",
          "except",
          "every",
          "and",
          "labelled",
          "in",
          "now",
          "later",
          "with",
          "grant",
          "option",
          "made",
          "by");

  private enum Kinds {
    ROWS(
        "every table and view",
        NodeKind.TABLE,
        NodeKind.TABLE,
        NodeKind.MATERIALIZED_VIEW,
        NodeKind.VIEW),
    TABLES("every table", NodeKind.TABLE, NodeKind.TABLE, NodeKind.MATERIALIZED_VIEW),
    SEQUENCES("every sequence", NodeKind.SEQUENCE, NodeKind.SEQUENCE),
    ROUTINES("every routine", NodeKind.ROUTINE, NodeKind.ROUTINE);

    private final String words;

    /** What grants on what comes later call them. */
    private final NodeKind family;

    private final Set<NodeKind> of;

    Kinds(String words, NodeKind family, NodeKind... of) {
      this.words = words;
      this.family = family;
      this.of = Set.of(of);
    }
  }

  /**
   * A role or user.
   *
   * @param name as a charter writes it
   * @param disabled whether it cannot log in
   * @param until the moment from which it cannot log in; null for none
   * @param limits what the server keeps it to
   * @param powers the powers it has that can be set
   * @param held the roles it holds, each with how
   * @param may grant sentences
   */
  public record Entry(
      String name,
      boolean disabled,
      Instant until,
      Map<AccountLimit, Integer> limits,
      List<String> powers,
      List<String> held,
      List<String> may) {}

  /**
   * Drafts the charter. Cost: the governed grants, and the objects of their schemas.
   *
   * @param everybody whether it decides on what everybody may, too
   */
  public static Adoption of(Access access, boolean everybody) {
    return new Draft(access, everybody).draft();
  }

  /** Whether it is a role of the server's own that members can be given. */
  static boolean isBuiltIn(Access access, int role) {
    boolean whole = role != Principals.PUBLIC && access.principals().scope(role) < 0;
    return whole
        && !access.principals().isUser(role)
        && access.rules().isOwn(access.bareName(role));
  }

  private static final class Draft {
    private final Access access;
    private final Tree tree;
    private final Principals people;
    private final Owned ownership;
    private final boolean byHost;
    private final Governed governed;
    private final GrantDifference actual;
    private final boolean everybody;
    private final Set<String> builtIn = new TreeSet<>();

    Draft(Access access, boolean everybody) {
      this.everybody = everybody;
      this.access = access;
      this.tree = access.tree();
      this.people = access.principals();
      this.ownership = new Owned(access);
      this.byHost = access.rules().has(HouseFact.ACCOUNTS_BY_HOST);
      Governs all = new Governs(List.of("*"), List.of("*"), List.of("*"), everybody);
      this.governed = new Governed(access, all, Set.of());
      this.actual =
          new GrantDifference(
              access, governed, new LinkedHashSet<>(), new LinkedHashSet<>(), Set.of());
    }

    Adoption draft() {
      Set<String> schemas = new TreeSet<>();
      for (int node = 1; node < tree.size(); node++) {
        if (tree.kind(node) == NodeKind.SCHEMA && !tree.isSystem(node)) {
          schemas.add(written(tree.name(node)));
        }
      }
      List<Entry> roles = new ArrayList<>();
      List<Entry> users = new ArrayList<>();
      for (int id = 1; id < people.size(); id++) {
        if (governed.principal(id)) {
          boolean user = people.isUser(id);
          (user ? users : roles)
              .add(
                  new Entry(
                      written(people.name(id)),
                      people.account(id).disabled(),
                      user ? people.account(id).until() : null,
                      user ? limits(id) : Map.of(),
                      powers(id),
                      held(id),
                      may(id)));
        }
      }
      RolePatterns patterns = RolePatterns.of(roles, schemas);
      List<String> leftOut = new ArrayList<>(LeftOut.of(access, governed));
      AdoptedPolicies policies =
          new PolicyDraft(access, this::written, this::part, this::path).draft(leftOut);
      return new Adoption(
          List.copyOf(schemas),
          patterns.patterns(),
          patterns.others(),
          users,
          List.copyOf(builtIn),
          everybody ? everybody() : null,
          policies,
          leftOut);
    }

    private Entry everybody() {
      int all = Principals.PUBLIC;
      return new Entry("", false, null, Map.of(), List.of(), held(all), may(all));
    }

    /** An account that nobody gets into at all is left to itself: charters disable it instead. */
    private Map<AccountLimit, Integer> limits(int id) {
      Map<AccountLimit, Integer> found = AccountLimit.inOrder(people.account(id).limits());
      found.values().removeIf(value -> value == 0);
      return found;
    }

    private List<String> powers(int id) {
      return access.rules().has(HouseFact.SETS_POWERS)
          ? Stream.of(Power.values())
              .filter(power -> people.has(id, power) && SetPower.SETTABLE.contains(power))
              .map(Power::text)
              .toList()
          : List.of();
    }

    /** A name so that the charter means exactly it. */
    private String written(String name) {
      String plain = name.toLowerCase(java.util.Locale.ROOT);
      boolean folds = access.rules().fold(plain).equals(name) && plain.matches("[a-z_][\\w.@%]*");
      boolean asIs = access.rules().fold(name).equals(name) && name.matches("[\\w.@%/-]+");
      return folds ? plain : asIs ? name : '"' + name.replace("\"", "\"\"") + '"';
    }

    private List<String> held(int member) {
      boolean each = access.rules().activation() == Activation.PER_MEMBERSHIP;
      boolean account = access.rules().activation() == Activation.ONE_AT_A_TIME;
      Map<String, Membership> found = new TreeMap<>();
      for (int edge : access.memberships().rolesOf().run(member)) {
        int role = access.memberships().role(edge);
        Membership how = access.memberships().options(edge);
        boolean own = !governed.principal(role) && isBuiltIn(access, role);
        if (!how.implicit() && (own || governed.principal(role))) {
          if (own) {
            builtIn.add(written(people.name(role)));
          }
          found.merge(
              (people.isUser(role) ? "user " : "") + written(people.name(role)),
              how,
              (a, b) ->
                  Membership.of(
                      a.admin() || b.admin(), a.inherit() || b.inherit(), a.set() || b.set()));
        }
      }
      List<String> phrases = new ArrayList<>();
      found.forEach(
          (role, how) -> {
            boolean user = account && people.isUser(member);
            boolean fixed = each && !how.set();
            boolean request = (each || user) && !how.inherit();
            phrases.add(
                role
                    + (fixed ? " without switching" : "")
                    + (request ? " on request" : "")
                    + (how.admin() ? " with admin option" : ""));
          });
      return phrases;
    }

    private List<String> may(int grantee) {
      Map<Integer, Rights> rights = actual.actual(grantee);
      rights.keySet().removeIf(node -> !governed.grant(grantee, node) || isAbove(grantee, node));
      List<String> sentences = new ArrayList<>();
      AdoptedLater later = new AdoptedLater(access, governed, grantee);
      if (!byHost) {
        sentences.addAll(every(grantee, rights, later));
      }
      rights.forEach((node, held) -> sentences.addAll(sentences(node, held)));
      later.left(
          (given, creator) ->
              sentences.add(
                  PrivilegeSet.text(given.privileges())
                      + " on every "
                      + given.kind().text()
                      + " in "
                      + path(given.in())
                      + ", later"
                      + (creator < 0 ? "" : ", made by " + part(people.name(creator)))
                      + (given.option() ? " with grant option" : "")));
      return sentences;
    }

    /** Of what is above schemas a draft says what everybody may on a database, and nothing else. */
    private boolean isAbove(int grantee, int node) {
      boolean said = grantee == Principals.PUBLIC && tree.kind(node) == NodeKind.DATABASE;
      return tree.enclosing(node, NodeKind.SCHEMA) < 0 && !said;
    }

    /** Takes out of the rights what all things of some kinds in a schema have in common. */
    private List<String> every(int grantee, Map<Integer, Rights> rights, AdoptedLater later) {
      List<String> sentences = new ArrayList<>();
      Set<Integer> schemas = new TreeSet<>();
      rights.keySet().forEach(node -> schemas.add(tree.enclosing(node, NodeKind.SCHEMA)));
      schemas.remove(None.NODE);
      for (int schema : schemas) {
        for (Kinds kinds : Kinds.values()) {
          long common = common(grantee, schema, kinds, rights);
          long always = later.takenByAll(schema, kinds.family, common);
          String where = " on " + kinds.words + " in " + path(schema);
          if (always != 0) {
            sentences.add(PrivilegeSet.text(always) + where + ", now and later");
          }
          if ((common & ~always) != 0) {
            sentences.add(PrivilegeSet.text(common & ~always) + where + ", now");
          }
        }
      }
      return sentences;
    }

    /**
     * The privileges given on all of them, which are taken out; 0 where it is not worth an every.
     */
    private long common(int grantee, int schema, Kinds kinds, Map<Integer, Rights> rights) {
      long common = -1;
      List<Integer> alike = new ArrayList<>();
      for (int child : tree.children().run(schema)) {
        NodeKind kind = tree.kind(child);
        long owned = ownership.owned(grantee, child);
        if (kinds.of.contains(kind) && owned == 0) {
          Rights held = rights.get(child);
          common &= held == null ? 0 : held.whole & ~held.grantable;
          alike.add(child);
        } else if (kinds.of.contains(kind)) {
          common &= access.rules().grantableOn(kind) & owned;
        }
      }
      if (alike.size() < WORTH_EVERY || common == -1) {
        return 0;
      }
      for (int child : common == 0 ? List.<Integer>of() : alike) {
        rights.get(child).whole &= ~common;
      }
      return common;
    }

    private List<String> sentences(int node, Rights held) {
      List<String> found = new ArrayList<>();
      String on = " on " + tree.kind(node).text() + " " + path(node);
      long possible = access.rules().grantableOn(tree.kind(node));
      for (boolean option : new boolean[] {false, true}) {
        boolean here = byHost ? held.grantable != 0 : option;
        long bits =
            byHost
                ? (option == here ? held.whole : 0)
                : option ? held.whole & held.grantable : held.whole & ~held.grantable;
        if ((bits & possible) != 0) {
          found.add(PrivilegeSet.text(bits & possible) + on + (option ? " with grant option" : ""));
        }
        Rights.byColumns(
                held.columns.keySet(),
                column -> {
                  long all = held.on(column) & access.rules().columnPrivileges();
                  long can = byHost ? (here ? all : 0) : held.grantableOn(column);
                  return option ? all & can : all & ~can;
                })
            .forEach(
                (ordinals, privileges) ->
                    found.add(
                        columns(node, ordinals, privileges)
                            + on
                            + (option ? " with grant option" : "")));
      }
      return found;
    }

    private String columns(int node, List<Integer> ordinals, long privileges) {
      List<String> names = ordinals.stream().map(o -> part(tree.column(node, o))).toList();
      return String.join(
          ", ",
          PrivilegeSet.list(privileges).stream()
              .map(privilege -> privilege.text() + " (" + String.join(", ", names) + ")")
              .toList());
    }

    private String part(String name) {
      String plain = name.toLowerCase(java.util.Locale.ROOT);
      boolean means = access.rules().fold(plain).equals(name);
      boolean word = plain.matches("[\\p{L}_][\\p{L}\\p{Nd}_$]*") && !WORDS.contains(plain);
      return means && word ? plain : '"' + name.replace("\"", "\"\"") + '"';
    }

    private String path(int node) {
      StringBuilder path = new StringBuilder();
      for (int at = node; tree.parent(at) >= 0; at = tree.parent(at)) {
        path.insert(0, part(tree.name(at)) + (path.length() == 0 ? "" : "."));
      }
      return path.toString();
    }
  }
}
