package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.outcome.Done;
import fiador.changes.steps.Step;
import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.grants.Lookup;
import fiador.grants.Membership;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import fiador.predicates.PredicateReader;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.live.Preview;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.function.Supplier;

/**
 * A table whose view stands under its name, on any server: eve sees all of it and writes, ann sees
 * it masked and without the rows of others. The table twin has the same columns and rows, and no
 * policies.
 */
public final class UnderNameScenario {
  static final Wanted.Place HERE = new Wanted.Place("shop.yaml", 1, 1);
  private static final String SECRET = "x";
  private static final int SEEDS = 6;
  private static final int STATEMENTS = 60;
  private static final String OWN = "district in user.districts";

  private final Server server;
  private final Login login;
  private final String database;

  /**
   * @param database the database; null where there are none
   */
  public UnderNameScenario(Server server, Login login, String database) {
    this.server = server;
    this.login = login;
    this.database = database;
  }

  /** What the server has, as surveyed now. */
  public Access survey() throws ServerException {
    List<String> databases = database == null ? List.of() : List.of(database);
    Access access = Forms.of(server.survey(login, "server", databases, Instant.EPOCH, note -> {}));
    assertThat(access.sights().doubts()).isEmpty();
    return access;
  }

  /** What is to be done so that the server is as wanted. */
  public Gap gap(Wanted wanted) throws ServerException {
    Gap gap = Gap.between(survey(), wanted, false, Set.of(login.user()), Clock.systemUTC());
    assertThat(gap.plan().problems()).isEmpty();
    return gap;
  }

  /** Settles it, and sees that nothing is left to do. */
  public List<Step> settle(Wanted wanted) throws ServerException {
    List<Step> steps = gap(wanted).plan().steps();
    Carrying.out(server, login, steps.toArray(Step[]::new));
    assertThat(new Done(survey()).missing(steps)).isEmpty();
    assertThat(gap(wanted).plan().steps()).isEmpty();
    return steps;
  }

  /** Takes steps back. */
  public void undo(List<Step> steps) throws ServerException {
    List<Step> back = new Done(survey()).undo(steps);
    Carrying.out(server, login, back.toArray(Step[]::new));
  }

  /** The table and its twin for everybody, with the mask on phone; no policies without a mask. */
  public static Wanted wanted(ViewPlace place, String mask) throws Exception {
    List<Wanted.Grant> grants = new ArrayList<>();
    grants.add(grant("readers", NodeKind.SCHEMA, "shop", Privilege.USAGE));
    for (String table : List.of("shop.people", "shop.twin")) {
      grants.add(grant("readers", NodeKind.TABLE, table, Privilege.SELECT));
      grants.add(grant("writers", NodeKind.TABLE, table, Privilege.INSERT));
      grants.add(grant("writers", NodeKind.TABLE, table, Privilege.UPDATE));
      grants.add(grant("writers", NodeKind.TABLE, table, Privilege.DELETE));
    }
    return new Wanted(
        List.of(
            new Wanted.Principal("readers", HERE),
            new Wanted.Principal("writers", HERE),
            new Wanted.Principal("bosses", HERE)),
        List.of(new Wanted.Principal("ann", HERE), new Wanted.Principal("eve", HERE)),
        List.of(
            new Wanted.Member("ann", "readers", Membership.PLAIN, HERE),
            new Wanted.Member("ann", "writers", Membership.PLAIN, HERE),
            new Wanted.Member("eve", "readers", Membership.PLAIN, HERE),
            new Wanted.Member("eve", "writers", Membership.PLAIN, HERE),
            new Wanted.Member("eve", "bosses", Membership.PLAIN, HERE)),
        grants,
        List.of(),
        List.of(),
        new Wanted.Governs(List.of("shop"), List.of("*"), List.of("*")),
        sight(place, mask));
  }

  private static Wanted.Grant grant(String role, NodeKind kind, String on, Privilege privilege) {
    return new Wanted.Grant(
        role,
        List.of(new Wanted.Action(privilege, List.of())),
        new Wanted.Single(kind, on),
        true,
        false,
        false,
        HERE);
  }

  private static WantedSight sight(ViewPlace place, String mask) throws Exception {
    if (mask == null) {
      return new WantedSight(List.of(), List.of(), Map.of(), List.of(), Map.of(), List.of(), true);
    }
    Expression others = new Expression.Not(new Expression.IsTrue(new Expression.Holds("bosses")));
    return new WantedSight(
        List.of(
            new WantedSight.Rows(
                "own",
                List.of(new Wanted.Single(NodeKind.TABLE, "shop.people")),
                Map.of(),
                Expression.TRUE,
                new Expression.Holds("bosses"),
                PredicateReader.read(OWN),
                HERE,
                false,
                place,
                HERE)),
        List.of(
            new WantedSight.Masks(
                "phones",
                List.of(new WantedSight.Labelled("shop.people.phone", HERE)),
                List.of(),
                List.of(),
                others,
                Map.of("otherwise", Mask.of(mask)),
                0,
                ViewPlace.UNSAID,
                HERE)),
        Map.of("ann", Map.of("districts", List.of("north"))),
        List.of(),
        Map.of(),
        List.of(),
        true);
  }

  /** How many rows somebody gets, once the server gave the same values as the core says. */
  public long sees(String name, String table) throws Exception {
    Access access = survey();
    Preview preview = new Preview(server, login, access, Clock.systemUTC());
    int user = new Lookup(access).principal(name).id();
    Preview.View view = preview.view(user, new Lookup(access).node(table, 0, false).id());
    Preview.Count count = preview.count(view, null, -1, 0);
    Preview.Live live = preview.live(view, SECRET);
    assertThat(live.digest().sameAs(count.digest())).as("%s on %s", name, table).isTrue();
    return count.shown();
  }

  /**
   * A mask under the table's name: everybody sees what the core says, also once it is another mask,
   * and undone the grants are what they were.
   *
   * @param people how the server calls ann and eve
   * @param grants what was given on the tables of shop
   * @param refused how it says no
   */
  public void isSeenChangedAndUndone(
      List<String> people, Supplier<List<String>> grants, String refused) throws Exception {
    String ann = people.get(0);
    settle(wanted(null, null));
    List<String> before = grants.get();
    List<Step> steps = settle(wanted(ViewPlace.UNDER_NAME, "keep_last(2)"));
    assertThat(sees(ann, "shop.people")).isEqualTo(2);
    assertThat(sees(people.get(1), "shop.people")).isEqualTo(4);
    assertThat(outcome(as(ann), "SELECT phone FROM shop.people ORDER BY id"))
        .containsExactly("******01|", "null|");
    assertThat(outcome(as(ann), "SELECT phone FROM shop.people_base"))
        .containsExactly("refused: " + refused);
    List<Step> changed = settle(wanted(ViewPlace.UNDER_NAME, "stars"));
    assertThat(sees(ann, "shop.people")).isEqualTo(2);
    undo(changed);
    undo(steps);
    assertThat(grants.get()).isEqualTo(before);
    assertThat(gap(wanted(null, null)).plan().steps()).isEmpty();
    assertThat(outcome(as(ann), "SELECT count(*) FROM shop.people WHERE id < 9"))
        .containsExactly("4|");
  }

  /** A charter without the mask gives the table its name and its grants back. */
  public void isTakenBack(Supplier<List<String>> grants) throws Exception {
    settle(wanted(null, null));
    List<String> before = grants.get();
    settle(wanted(ViewPlace.UNDER_NAME, "stars"));
    settle(wanted(null, null));
    assertThat(grants.get()).isEqualTo(before);
  }

  /**
   * A view beside the table gives way to one under its name, and comes back, undone or by charter.
   *
   * @param gone how the server says that there is no such table
   */
  public void besideGivesWayAndComesBack(
      String ann, Supplier<List<String>> grants, String gone, String refused) throws Exception {
    settle(wanted(ViewPlace.BESIDE, "stars"));
    List<String> before = grants.get();
    List<Step> steps = settle(wanted(ViewPlace.UNDER_NAME, "stars"));
    assertThat(outcome(server.connect(login, database), "SELECT 1 FROM shop.people_safe"))
        .containsExactly("refused: " + gone);
    assertThat(sees(ann, "shop.people")).isEqualTo(2);
    undo(steps);
    assertThat(gap(wanted(ViewPlace.BESIDE, "stars")).plan().steps()).isEmpty();
    assertThat(grants.get()).isEqualTo(before);
    settle(wanted(ViewPlace.UNDER_NAME, "stars"));
    settle(wanted(ViewPlace.BESIDE, "stars"));
    assertThat(sees(ann, "shop.people")).isEqualTo(2);
    assertThat(grants.get()).isEqualTo(before);
    assertThat(outcome(as(ann), "SELECT phone FROM shop.people"))
        .containsExactly("refused: " + refused);
  }

  /** Random statements of one who sees all come to the same on the table and on its twin. */
  public void comesToTheSameAsOnTheTwin(String eve) throws Exception {
    settle(wanted(ViewPlace.UNDER_NAME, "keep_last(2)"));
    long first = Long.getLong("fiador.seed", 1);
    try (Connection connection = as(eve)) {
      for (long seed = first; seed < first + SEEDS; seed++) {
        List<String> on = statements("shop.people", seed, STATEMENTS);
        List<String> twin = statements("shop.twin", seed, STATEMENTS);
        for (int i = 0; i < on.size(); i++) {
          assertThat(outcome(connection, on.get(i)))
              .as(on.get(i))
              .isEqualTo(outcome(connection, twin.get(i)));
        }
      }
      assertThat(outcome(connection, "SELECT * FROM shop.people ORDER BY id"))
          .isEqualTo(outcome(connection, "SELECT * FROM shop.twin ORDER BY id"));
    }
  }

  /** A connection of one of the people. */
  public Connection as(String name) throws Exception {
    return server.connect(login.as(name, SECRET), database);
  }

  /** What comes back of a statement: rows, or how many were changed, or that it is refused. */
  public static List<String> outcome(Connection connection, String sql) {
    List<String> found = new ArrayList<>();
    try (Statement statement = connection.createStatement()) {
      if (statement.execute(sql)) {
        try (var rows = statement.getResultSet()) {
          while (rows.next()) {
            StringBuilder row = new StringBuilder();
            for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
              row.append(rows.getString(i)).append('|');
            }
            found.add(row.toString());
          }
        }
      } else {
        found.add(statement.getUpdateCount() + " changed");
      }
    } catch (SQLException refused) {
      found.add("refused: " + refused.getSQLState());
    }
    return found;
  }

  /** Statements on a table with the columns id, name, phone, district and due, in an order. */
  public static List<String> statements(String table, long seed, int count) {
    Random random = new Random(seed);
    List<String> all = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      String id = String.valueOf(1 + random.nextInt(9));
      String text = "'" + "abcdefgh".substring(random.nextInt(6)) + "'";
      String district = random.nextBoolean() ? "'north'" : "'hills'";
      all.add(
          switch (random.nextInt(10)) {
            case 0 ->
                "INSERT INTO %s (name, phone, district) VALUES (%s, '555-%s', %s)"
                    .formatted(table, text, id, district);
            case 1 ->
                "INSERT INTO %s (id, name, phone, district, due) VALUES (%s, %s, NULL, %s, 2)"
                    .formatted(table, id, text, district);
            case 2 -> "UPDATE %s SET name = %s WHERE id = %s".formatted(table, text, id);
            case 3 ->
                "UPDATE %s SET phone = '%s' WHERE district = %s".formatted(table, id, district);
            case 4 ->
                "UPDATE %s SET due = due + 1, phone = NULL WHERE name = %s".formatted(table, text);
            case 5 -> "DELETE FROM %s WHERE id = %s".formatted(table, id);
            case 6 -> "DELETE FROM %s WHERE phone = '555-%s'".formatted(table, id);
            case 7 -> "SELECT count(*), min(phone) FROM %s WHERE name >= %s".formatted(table, text);
            case 8 ->
                "INSERT INTO %s (name, district) VALUES ('%s', %s)"
                    .formatted(table, "far too long for any name".repeat(4), district);
            default -> "SELECT id, name, phone, district, due FROM %s ORDER BY id".formatted(table);
          });
    }
    return all;
  }
}
