package fiador.servers.sheet;

import static fiador.servers.sheet.RandomDeeds.execute;
import static fiador.servers.sheet.RandomDeeds.q;
import static org.assertj.core.api.Assertions.assertThat;

import fiador.across.Atlas;
import fiador.across.Crossing;
import fiador.across.Crossing.Crossed;
import fiador.across.Leg;
import fiador.across.Leg.Answer;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import fiador.servers.jdbc.Login;
import fiador.standin.serving.Settings;
import fiador.standin.serving.StandIn;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Tables that are elsewhere, on two stand-ins of random houses: what we say of each equals what
 * every user can read there, as they come and with every role they can switch to.
 */
class StandInForeignTest {
  private static final int SEEDS = (Integer.getInteger("fiador.seeds", 6) + 2) / 3;
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);
  private static final String SECRET = "known only here";
  private static final Set<String> NOT_READ = Set.of("42501", "42000");

  @TempDir private Path folder;
  private final List<String> why = new ArrayList<>();
  private final Map<Answer, Integer> seen = new EnumMap<>(Answer.class);

  /** One of the stand-ins, with a random estate. */
  private final class Side implements AutoCloseable {
    private final String name;
    private final SheetServer server;
    private final StandIn standIn;
    private final Connection admin;
    private final RandomWarehouse estate;
    private final RandomHouse house;

    Side(String name, int seed) throws Exception {
      this.name = name;
      this.house = new RandomHouse(seed);
      this.server = Sheets.of(withForeign(house.sheet()));
      this.standIn =
          StandIn.start(
              Settings.local(
                  folder.resolve(name + seed), house.sheet(), "keeper", "x".toCharArray(), 0));
      this.admin = server.connect(login(), null);
      this.estate = new RandomWarehouse(admin, seed, house, nobody -> null, all -> true);
      estate.build();
      estate.users.forEach(
          user -> estate.run("ALTER USER " + q(user) + " PASSWORD '" + SECRET + "'"));
    }

    Login login() {
      return new Login("jdbc:standin://127.0.0.1:" + standIn.port() + "/", "keeper", "x");
    }

    Access survey() throws Exception {
      Access access = server.survey(login(), name, List.of(), Instant.now(), note -> {});
      ByteArrayOutputStream file = new ByteArrayOutputStream();
      SurveyWriter.write(access, file);
      assertThat(file.toString(StandardCharsets.UTF_8)).doesNotContain(SECRET);
      return SurveyReader.read("survey", new ByteArrayInputStream(file.toByteArray()));
    }

    @Override
    public void close() throws SQLException, IOException {
      admin.close();
      standIn.close();
    }
  }

  private static String withForeign(String sheet) {
    return sheet.replace(
        "\nwriting:",
        """
          foreign_servers:
            - query: select * from catalog.places
              name: '{place_name}'
              host: '{host}'
              port: '{port}'
              database_there: '{database_name}'
          user_mappings:
            - query: select * from catalog.ways_in
              of: '{principal_name}'
              server: '{place_name}'
              user: '{enters_as}'
          foreign_tables:
            - query: select * from catalog.external_tables
              database: '{database_name}'
              schema: '{schema_name}'
              name: '{object_name}'
              server: '{place_name}'
              schema_there: '{schema_there}'
              name_there: '{object_there}'

        writing:"""
            .indent(0)
            .replaceFirst("\n$", ""));
  }

  @Test
  void whoeverReadsATableElsewhereIsToldBefore() throws Exception {
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      try (Side there = new Side("there", 500 + seed);
          Side here = new Side("here", seed)) {
        Random random = new Random(seed * 31_337L);
        open(there.estate, random);
        open(here.estate, random);
        lead(here, there, random);
        compare(seed, here, there);
      }
    }
    assertThat(seen).containsKeys(Answer.OPEN, Answer.CLOSED);
  }

  /** Gates and tables for many, so that more than a few get through on both sides. */
  private static void open(RandomWarehouse estate, Random random) {
    estate.run("GRANT CONNECT ON SERVER TO EVERYBODY");
    for (String schema : estate.schemas) {
      if (random.nextInt(4) > 0) {
        estate.run("GRANT USAGE ON SCHEMA " + schema + " TO EVERYBODY");
        estate.run("GRANT CONNECT ON DATABASE " + first(schema) + " TO EVERYBODY");
      }
    }
    for (String table : estate.tables) {
      if (random.nextInt(3) == 0) {
        estate.run("GRANT SELECT ON " + table + " TO EVERYBODY");
      }
    }
  }

  /** Places, ways in, tables that are there and views on them, and who may read those here. */
  private static void lead(Side here, Side there, Random random) {
    RandomWarehouse estate = here.estate;
    List<String> leading = new ArrayList<>();
    for (int i = 0; i < 8; i++) {
      Side to = i < 6 ? there : here;
      List<String> from =
          to == there ? there.estate.tables : leading.isEmpty() ? to.estate.tables : leading;
      String target = from.get(random.nextInt(from.size())).replaceFirst("^\\w+ ", "");
      String place = "\"p" + i + "\"";
      String database = to.house.databases() ? first(target) : null;
      String path = database == null ? target : target.substring(database.length() + 1);
      estate.run(
          "CREATE PLACE "
              + place
              + " AT '"
              + (random.nextBoolean() ? "localhost" : "127.0.0.1")
              + ":"
              + to.standIn.port()
              + "'"
              + (database == null ? "" : " DATABASE " + database));
      ways(estate, to, place, random);
      String name = estate.any(estate.schemas) + ".\"far" + i + "\"";
      String columns = random.nextInt(4) == 0 ? "a integer, \"B\" integer" : "a integer, b integer";
      if (estate.run("CREATE TABLE " + name + " (" + columns + ") IN " + place + " AS " + path)) {
        leading.add("TABLE " + name);
      }
    }
    // whoever makes a view on one must get there
    for (int i = 0; i < 8; i++) {
      estate.run("LET keeper INTO \"p" + i + "\" AS \"keeper\" PASSWORD 'x'");
    }
    List<String> tables = List.copyOf(leading);
    for (int i = 0; i < 4 && !tables.isEmpty(); i++) {
      String name = estate.any(estate.schemas) + ".\"over" + i + "\"";
      String as = random.nextInt(3) == 0 ? " READS AS ASKER" : "";
      String under = estate.any(tables).replaceFirst("^\\w+ ", "");
      if (estate.run("CREATE VIEW " + name + as + " AS SELECT a FROM " + under)) {
        leading.add("VIEW " + name);
        String owner = random.nextBoolean() ? estate.any(estate.users) : estate.any(estate.roles);
        estate.run("ALTER VIEW " + name + " OWNER TO " + q(owner));
      }
    }
    for (int i = 0; i < 30 && !leading.isEmpty(); i++) {
      String what = random.nextInt(5) == 0 ? "SELECT (a)" : "SELECT";
      String verb = random.nextInt(8) == 0 ? "REFUSE " : "GRANT ";
      boolean role = here.house.rolesOnly() || random.nextBoolean();
      String who = role ? estate.any(estate.roles) : estate.any(estate.users);
      String to = random.nextInt(6) == 0 ? "EVERYBODY" : q(who);
      estate.run(verb + what + " ON " + estate.any(leading) + " TO " + to);
    }
  }

  private static void ways(RandomWarehouse estate, Side to, String place, Random random) {
    List<String> whose = new ArrayList<>(List.of("EVERYBODY"));
    estate.users.forEach(user -> whose.add(q(user)));
    estate.roles.forEach(role -> whose.add(q(role)));
    for (String who : whose) {
      if (random.nextInt(3) == 0) {
        String as = random.nextInt(8) == 0 ? "NOBODY" : to.estate.any(to.estate.users);
        estate.run("LET " + who + " INTO " + place + " AS " + q(as) + " PASSWORD '" + SECRET + "'");
      }
    }
  }

  /** The first of the quoted names in a path, in its quotes. */
  private static String first(String path) {
    return path.replaceFirst("^(\"(?:[^\"]|\"\")+\").*", "$1");
  }

  private void compare(int seed, Side here, Side there) throws Exception {
    Access near = here.survey();
    Crossing crossing =
        new Crossing(near, new Atlas(List.of(near, there.survey())), Clock.systemUTC());
    Set<String> mismatches = new TreeSet<>();
    int asked = 0;
    for (String user : here.estate.users) {
      try (Connection session = here.server.connect(here.login().as(user, SECRET), null)) {
        asked += compare(near, crossing, user, session, here.estate.roles, mismatches);
      } catch (fiador.servers.jdbc.ServerException out) {
        // a gate keeps them out altogether, and of what they read there is nothing to compare
        asked++;
      }
    }
    assertThat(mismatches).as("seed %d of %d", seed, asked).isEmpty();
    assertThat(asked).isPositive();
  }

  private int compare(
      Access near,
      Crossing crossing,
      String user,
      Connection session,
      List<String> roles,
      Set<String> mismatches)
      throws SQLException {
    Tree tree = near.tree();
    int id = near.principals().named(user);
    int asked = 0;
    for (int node = 0; node < tree.size(); node++) {
      boolean rows = tree.kind(node) == NodeKind.TABLE || tree.kind(node) == NodeKind.VIEW;
      if (!rows || !crossing.leaves(node)) {
        continue;
      }
      for (int column = -1; column < tree.columns(node); column++) {
        // of a view's own columns, those that lie under it are read whatever is asked
        String what = column < 0 ? "*" : q(tree.column(node, column));
        String query = "SELECT " + what + " FROM " + path(tree, node);
        Crossed told = crossing.read(id, node, column);
        Answer answer = told == null ? Answer.CLOSED : told.answer();
        why.clear();
        boolean now = works(session, query);
        boolean ever = now || switched(session, roles, query);
        boolean live = answer == Answer.OPEN && told.state() == State.LIVE;
        boolean some = answer == Answer.OPEN;
        asked++;
        seen.merge(answer, 1, Integer::sum);
        if (now != live || ever != some) {
          mismatches.add(
              user + ": " + query + ": worked " + now + "/" + ever + ", told " + legs(told) + why);
        }
      }
    }
    return asked;
  }

  private boolean switched(Connection session, List<String> roles, String query)
      throws SQLException {
    boolean worked = false;
    for (String role : roles) {
      if (!worked && works(session, "SET ROLE " + q(role))) {
        worked = works(session, query);
        execute(session, "SET ROLE NONE");
      }
    }
    return worked;
  }

  private boolean works(Connection session, String sql) throws SQLException {
    try {
      execute(session, sql);
      return true;
    } catch (SQLException refused) {
      if (!NOT_READ.contains(refused.getSQLState())) {
        throw new SQLException(sql + ": " + refused.getMessage(), refused);
      }
      why.add(refused.getMessage());
      return false;
    }
  }

  private static String path(Tree tree, int node) {
    String name = q(tree.name(node));
    int parent = tree.parent(node);
    return tree.kind(parent) == NodeKind.SERVER ? name : path(tree, parent) + "." + name;
  }

  private static String legs(Crossed told) {
    if (told == null) {
      return "nothing";
    }
    StringBuilder text = new StringBuilder(told.answer() + " " + told.state());
    legs(told.legs(), text);
    return text.toString();
  }

  private static void legs(List<Leg> legs, StringBuilder text) {
    for (Leg leg : legs) {
      text.append(" -> ").append(leg.answer()).append(" ").append(leg.why()).append(" ");
      text.append(leg.login() == null ? "" : leg.login().user());
      legs(leg.onward(), text);
    }
  }
}
