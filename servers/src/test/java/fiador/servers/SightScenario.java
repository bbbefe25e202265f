package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.outcome.Done;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.grants.Lookup;
import fiador.grants.LookupKey;
import fiador.grants.Membership;
import fiador.policies.Mask;
import fiador.policies.SafeColumn;
import fiador.policies.Seeing;
import fiador.policies.Simulation;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import fiador.predicates.PredicateReader;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.live.SettleRun;
import fiador.servers.live.Sight;
import fiador.servers.policies.SightStatements;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A charter with policies is settled on a real server, changed, tampered with by hand and undone;
 * after each step the server must be what was worked out, and show each user what was simulated.
 */
public final class SightScenario {
  static final Wanted.Place HERE = new Wanted.Place("charter", 1, 1);
  private static final String SECRET = "s3cret-S3cret";

  final Server server;
  final Login login;
  final String database;
  final boolean maskedOnly;

  /**
   * A scenario.
   *
   * @param database the database to work in, or null
   * @param maskedOnly whether only masked tables get a view, because the server filters rows itself
   */
  public SightScenario(Server server, Login login, String database, boolean maskedOnly) {
    this.server = server;
    this.login = login;
    this.database = database;
    this.maskedOnly = maskedOnly;
  }

  /** Runs it; the schema shop with the tables orders, people and desks is there. */
  public void run() throws Exception {
    Access before = survey();
    settle(before, wanted("district in user.districts or district in lookup(desk)", "stars"));
    Access after = survey();
    assertNoGap(after, wanted("district in user.districts or district in lookup(desk)", "stars"));
    assertThat(sees(after, "ann", "shop.orders")).isEqualTo(2);
    assertThat(sees(after, "bob", "shop.orders")).isEqualTo(1);
    assertThat(sees(after, "eve", "shop.orders")).isEqualTo(4);
    assertThat(sees(after, "ann", "shop.people")).isEqualTo(3);
    assertThat(canReadItself(after, "ann", "people")).isFalse();
    assertThat(canReadItself(after, "ann", "orders")).isEqualTo(maskedOnly);

    Wanted changed = wanted("district = 'hills'", "keep_last(2)");
    settle(after, changed);
    Access then = survey();
    assertNoGap(then, changed);
    assertThat(sees(then, "ann", "shop.orders")).isEqualTo(1);
    assertThat(sees(then, "eve", "shop.people")).isEqualTo(3);

    Wanted byRole = wanted("district in lookup(crew)", "keep_last(2)");
    settle(then, byRole);
    Access roles = survey();
    assertNoGap(roles, byRole);
    assertThat(sees(roles, "ann", "shop.orders")).isEqualTo(1);
    assertThat(sees(roles, "eve", "shop.orders")).isEqualTo(4);
    Wanted byAttribute = wanted("district in lookup(zone)", "keep_last(2)");
    settle(roles, byAttribute);
    Access attributes = survey();
    assertThat(sees(attributes, "ann", "shop.orders")).isEqualTo(2);
    assertThat(sees(attributes, "bob", "shop.orders")).isZero();
    settle(attributes, changed);

    tamper();
    Gap gap = gap(survey(), changed);
    assertThat(gap.plan().steps()).hasSize(1).allMatch(ShowSafely.class::isInstance);
    settle(survey(), changed);
    assertNoGap(survey(), changed);

    List<Step> untouched = gap(survey(), wanted("", null)).plan().steps();
    assertThat(untouched).noneMatch(ShowSafely.class::isInstance);
    Wanted none = wanted(null, null);
    List<Step> steps = settle(survey(), none);
    Access open = survey();
    assertNoGap(open, none);
    assertThat(open.sights().kept()).isEmpty();
    assertThat(canReadItself(open, "ann", "people")).isTrue();
    carryOut(new Done(open).undo(steps));
    assertNoGap(survey(), changed);
    assertThat(sees(survey(), "ann", "shop.orders")).isEqualTo(1);
    new ViewPolicies(this).run();
  }

  void execute(String sql) throws Exception {
    try (Connection connection = server.connect(login, database);
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  Access survey() throws ServerException {
    List<String> databases = database == null ? List.of() : List.of(database);
    Access access = Forms.of(server.survey(login, "server", databases, Instant.EPOCH, note -> {}));
    assertThat(access.sights().doubts()).isEmpty();
    return access;
  }

  private Gap gap(Access access, Wanted wanted) {
    Gap gap = Gap.between(access, wanted, false, Set.of(login.user()), Clock.systemUTC());
    assertThat(gap.plan().problems()).isEmpty();
    return gap;
  }

  void assertNoGap(Access access, Wanted wanted) {
    assertThat(gap(access, wanted).plan().steps()).isEmpty();
  }

  List<Step> settle(Access access, Wanted wanted) throws ServerException {
    List<Step> steps = gap(access, wanted).plan().steps();
    carryOut(steps);
    Done done = new Done(survey());
    assertThat(done.missing(steps)).isEmpty();
    return steps;
  }

  void carryOut(List<Step> steps) throws ServerException {
    new SettleRun(server, login, user -> SECRET.toCharArray())
        .carryOut(
            steps,
            new SettleRun.Witness() {
              @Override
              public void begins(List<Step> some) {
                // nothing to keep
              }

              @Override
              public void done(List<Step> some, String sql) {
                // nothing to keep
              }
            });
  }

  /** How many rows a user gets, after comparing them value by value with what is simulated. */
  long sees(Access access, String name, String table) throws Exception {
    int user = new Lookup(access).principal(name).id();
    int asked = new Lookup(access).node(table, 0, false).id();
    Seeing seeing = new Seeing(access);
    boolean masked = seeing.safeViewOf(asked) >= 0;
    int node = masked ? seeing.safeViewOf(asked) : asked;
    Sight sight = new Sight(server, login, access);
    int home = Math.max(0, access.tree().enclosing(node, NodeKind.DATABASE));
    var lookups = sight.lookups(home, seeing.subject(user, home, Map.of()));
    Seeing.Answer answer = seeing.of(user, node, lookups);
    TableSight policies = answer == null ? TableSight.OPEN : answer.sight();
    assertThat(answer == null || answer.isKnown()).isTrue();
    List<SafeColumn> columns = seeing.columns(asked);
    Simulation simulation =
        new Simulation(policies, seeing.subject(user, home, lookups), columns, null);
    List<String> simulated = new ArrayList<>();
    sight.read(
        asked,
        columns,
        row -> {
          Object[] shown = simulation.row(row);
          if (shown != null) {
            simulated.add(List.of(shown).toString());
          }
          return true;
        });
    List<String> live = new ArrayList<>();
    sight.readAs(user, SECRET, null, node, columns, row -> live.add(List.of(row).toString()));
    assertThat(live).as("%s on %s", name, table).containsExactlyInAnyOrderElementsOf(simulated);
    return simulation.shown();
  }

  boolean canReadItself(Access access, String name, String table) {
    int user = new Lookup(access).principal(name).id();
    int node = new Lookup(access).node("shop." + table, 0, false).id();
    Sight sight = new Sight(server, login, access);
    try {
      sight.readAs(user, SECRET, null, node, new Seeing(access).columns(node), row -> true);
      return true;
    } catch (ServerException refused) {
      return false;
    }
  }

  /** Somebody opens a safe view by hand. */
  private void tamper() throws Exception {
    SightStatements sql = server.dialect().policies();
    Access access = survey();
    int table = new Lookup(access).node("shop.people", 0, false).id();
    int view = new Seeing(access).safeViewOf(table);
    String name =
        server.dialect().quoted(access.tree().name(access.tree().parent(view)))
            + "."
            + server.dialect().quoted(access.tree().name(view));
    String from = name.replace(access.tree().name(view), access.tree().name(table));
    try (Connection connection = server.connect(login, database);
        Statement statement = connection.createStatement()) {
      String all = maskedOnly ? "SELECT id, name::varchar, phone::varchar FROM " : "SELECT * FROM ";
      statement.execute(sql.makeView(name, true, false) + " AS " + all + from);
    }
  }

  /** A charter that has policies, but none at present. */
  private static final WantedSight NO_POLICIES =
      new WantedSight(List.of(), List.of(), Map.of(), List.of(), Map.of(), List.of(), true);

  private static Wanted.Grant read(String role, String table) {
    return new Wanted.Grant(
        role,
        List.of(new Wanted.Action(Privilege.SELECT, List.of())),
        new Wanted.Single(NodeKind.TABLE, table),
        true,
        false,
        false,
        HERE);
  }

  static Wanted wanted(String predicate, String mask) throws Exception {
    List<Wanted.Grant> grants = new ArrayList<>();
    grants.add(
        new Wanted.Grant(
            "readers",
            List.of(new Wanted.Action(Privilege.USAGE, List.of())),
            new Wanted.Single(NodeKind.SCHEMA, "shop"),
            true,
            false,
            false,
            HERE));
    grants.add(read("readers", "shop.orders"));
    grants.add(read("readers", "shop.people"));
    return new Wanted(
        List.of(new Wanted.Principal("readers", HERE), new Wanted.Principal("bosses", HERE)),
        List.of(
            new Wanted.Principal("ann", HERE),
            new Wanted.Principal("bob", HERE),
            new Wanted.Principal("eve", HERE)),
        List.of(
            new Wanted.Member("ann", "readers", Membership.PLAIN, HERE),
            new Wanted.Member("bob", "readers", Membership.PLAIN, HERE),
            new Wanted.Member("bosses", "readers", Membership.PLAIN, HERE),
            new Wanted.Member("eve", "bosses", Membership.PLAIN, HERE)),
        grants,
        List.of(),
        List.of(),
        new Wanted.Governs(List.of("shop"), List.of("*"), List.of("*")),
        predicate == null
            ? NO_POLICIES
            : predicate.isEmpty() ? WantedSight.NONE : sight(predicate, mask));
  }

  private static WantedSight sight(String predicate, String mask) throws Exception {
    Expression notBosses =
        new Expression.Not(new Expression.IsTrue(new Expression.Holds("bosses")));
    return new WantedSight(
        List.of(
            new WantedSight.Rows(
                "own districts",
                List.of(new Wanted.Single(NodeKind.TABLE, "shop.orders")),
                Map.of(),
                Expression.TRUE,
                new Expression.Holds("bosses"),
                PredicateReader.read(predicate),
                HERE,
                false,
                ViewPlace.UNSAID,
                HERE)),
        List.of(
            new WantedSight.Masks(
                "phones",
                List.of(new WantedSight.Labelled("shop.people.phone", HERE)),
                List.of(),
                List.of(),
                notBosses,
                Map.of("text", Mask.of(mask)),
                0,
                ViewPlace.UNSAID,
                HERE)),
        Map.of(
            "ann",
            Map.of(
                "districts",
                List.of("north", "it's \\ odd"),
                "crews",
                List.of("bosses", "BOSSES"))),
        List.of(
            lookup("desk", "shop.desks", "who", LookupKey.USER),
            lookup("crew", "shop.crews", "crew", LookupKey.ROLE),
            lookup("zone", "shop.crews", "crew", new LookupKey("user.crews"))),
        Map.of(),
        List.of(),
        true);
  }

  private static WantedSight.Lookup lookup(String name, String table, String key, LookupKey keys) {
    return new WantedSight.Lookup(name, table, key, keys, "district", HERE);
  }

  /** The tables, in SQL that all servers understand; the schema is there. */
  public static List<String> tables() {
    return List.of(
        "CREATE TABLE shop.orders (id integer, district varchar(20))",
        "INSERT INTO shop.orders VALUES (1, 'north'), (2, 'hills'), (3, 'delta'), (4, 'north')",
        "CREATE TABLE shop.people (id integer, name varchar(20), phone varchar(20))",
        "INSERT INTO shop.people VALUES (1, 'Olga', '555-0101'), (2, 'Bento', '555-0102'),"
            + " (3, 'Irene', '555-0103')",
        "CREATE TABLE shop.crews (crew varchar(60), district char(20))",
        // one server keeps its roles' names in capitals
        "INSERT INTO shop.crews VALUES ('readers', 'delta'), ('READERS', 'delta'),"
            + " ('bosses', 'north'), ('BOSSES', 'north'), ('nobody', 'hills')",
        "CREATE TABLE shop.desks (who varchar(60), district char(20))",
        "INSERT INTO shop.desks VALUES ('bob', 'delta'), ('ann ', 'hills'), ('eve', 'delta')");
  }
}
