package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.across.Atlas;
import fiador.across.Crossing;
import fiador.across.Crossing.Crossed;
import fiador.across.Leg;
import fiador.across.Leg.Answer;
import fiador.effects.State;
import fiador.effects.Switching;
import fiador.estate.Power;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.servers.jdbc.Login;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * What is behind foreign tables, on two servers: every user's query is really run, as themselves
 * and as every role they can switch to.
 */
class PostgresqlForeignTest {
  private static final int SEEDS = (Integer.getInteger("fiador.seeds", 6) + 1) / 2;
  private static final long FIRST = Long.getLong("fiador.first", 2);
  private static final String SECRET = "known only here";

  private final PostgresqlServer server = new PostgresqlServer();
  private final Side here = new Side(RealPostgresql.login(18), "here");
  private final Side there = new Side(RealPostgresql.login(16), "there");
  private final Map<Answer, Integer> seen = new EnumMap<>(Answer.class);

  /** One of the servers, which asks everybody but its administrator for a secret. */
  private static final class Side {
    private final Login admin;
    private final String name;
    private Path rules;
    private String before;

    Side(Login admin, String name) {
      this.admin = admin;
      this.name = name;
    }

    void asks() throws Exception {
      try (Connection connection = RealPostgresql.connect(admin, null);
          Statement sql = connection.createStatement()) {
        try (ResultSet file = sql.executeQuery("show hba_file")) {
          file.next();
          rules = Path.of(file.getString(1));
        }
        before = Files.readString(rules);
        Files.writeString(
            rules,
            "host all postgres all trust\nhost " + name + " all all scram-sha-256\n" + before);
        sql.execute("select pg_reload_conf()");
        sql.execute("create database " + name);
      }
    }

    void asItWas() throws Exception {
      Files.writeString(rules, before);
      try (Connection connection = RealPostgresql.connect(admin, null);
          Statement sql = connection.createStatement()) {
        sql.execute("select pg_reload_conf()");
        sql.execute("drop database " + name + " with (force)");
        List<String> roles = new ArrayList<>();
        try (ResultSet row =
            sql.executeQuery("select rolname from pg_roles where rolname ~ '^" + name + "_'")) {
          while (row.next()) {
            roles.add(row.getString(1));
          }
        }
        for (String role : roles) {
          sql.execute("drop role " + role);
        }
      }
    }

    int port() {
      return Integer.parseInt(admin.url().replaceFirst(".*:(\\d+)/.*", "$1"));
    }

    void run(List<String> script) throws SQLException {
      try (Connection connection = RealPostgresql.connect(admin, name);
          Statement sql = connection.createStatement()) {
        for (String each : script) {
          sql.execute(each);
        }
      }
    }

    Connection as(String user) throws SQLException {
      return RealPostgresql.connect(new Login(admin.url(), user, SECRET), name);
    }
  }

  @BeforeEach
  void serversThatAsk() throws Exception {
    here.asks();
    there.asks();
  }

  @AfterEach
  void asTheyWere() throws Exception {
    here.asItWas();
    there.asItWas();
  }

  @Test
  void everyQueryAnswersAsItIsToldBefore() throws Exception {
    for (long seed = FIRST; seed < FIRST + SEEDS; seed++) {
      Random random = new Random(seed * 7_046_029_254_386_353_131L);
      there.run(farEnd(random));
      here.run(nearEnd(random));
      compare(seed);
      asTheyWere();
      serversThatAsk();
    }
    assertThat(seen.keySet()).as(seen.toString()).containsExactlyInAnyOrder(Answer.values());
  }

  /** Tables and views with rights for some, of which foreign tables elsewhere may be made. */
  private List<String> farEnd(Random random) {
    List<String> script = new ArrayList<>();
    people(script, "there", random);
    script.add("create schema store");
    for (int table = 0; table < 3; table++) {
      script.add("create table store.t" + table + " (c0 int, c1 int, c2 int)");
      script.add("insert into store.t" + table + " values (1, 2, 3)");
    }
    if (random.nextBoolean()) {
      script.add("grant select on all tables in schema store to there_u2, there_u3");
    }
    script.add("create view store.v0 as select c0, c1, 7 as c2 from store.t0");
    script.add("alter view store.v0 owner to there_g0");
    script.add("grant usage on schema store to " + pick(random, "public", "public", "there_g0"));
    for (int grant = 0; grant < 14; grant++) {
      String columns = random.nextInt(3) > 0 ? "" : "(c" + random.nextInt(3) + ")";
      String on = pick(random, "t0", "t1", "t2", "v0");
      script.add("grant select " + columns + " on store." + on + " to " + who(random, "there"));
    }
    return script;
  }

  private static void people(List<String> script, String side, Random random) {
    for (int at = 0; at < 3; at++) {
      script.add("create role " + side + "_g" + at + " nologin");
    }
    for (int at = 0; at < 4; at++) {
      String more = side.equals("there") && random.nextInt(5) == 0 ? " nologin" : " login";
      script.add("create role " + side + "_u" + at + more + " password '" + SECRET + "'");
    }
    for (int at = 0; at < 5; at++) {
      script.add(
          "grant "
              + side
              + "_g"
              + random.nextInt(3)
              + " to "
              + side
              + "_u"
              + random.nextInt(4)
              + " with inherit "
              + random.nextBoolean()
              + ", set "
              + random.nextBoolean());
    }
    if (random.nextInt(3) == 0) {
      script.add("alter role " + side + "_u0 superuser");
    }
  }

  private static String who(Random random, String side) {
    return random.nextInt(6) == 0
        ? "public"
        : side + (random.nextBoolean() ? "_g" + random.nextInt(3) : "_u" + random.nextInt(4));
  }

  private static String pick(Random random, String... of) {
    return of[random.nextInt(of.length)];
  }

  /** Foreign tables of there, and of the same server; mappings, views and rights. */
  private List<String> nearEnd(Random random) {
    List<String> script = new ArrayList<>();
    people(script, "here", random);
    script.add("create extension postgres_fdw");
    script.add("create schema far");
    script.add("grant usage on schema far to public");
    script.add("create table far.own (c0 int, c1 int, c2 int)");
    script.add("insert into far.own values (1, 2, 3)");
    foreignServer(script, random, "away", "there", there.port());
    foreignServer(script, random, "back", "here", here.port());
    for (int table = 0; table < 6; table++) {
      String name = "far.f" + table;
      boolean away = table < 4;
      String schema = away ? "store" : "far";
      String of =
          away
              ? pick(random, "t0", "t1", "t2", "v0", random.nextInt(4) == 0 ? "gone" : "t0")
              : pick(random, "own", "f0", "f1", "f" + table);
      String other = random.nextInt(4) == 0 ? "c2" : "c1";
      script.add(
          "create foreign table "
              + name
              + " (c0 int, c1 int options (column_name '"
              + other
              + "')"
              + (random.nextBoolean() ? ", c2 int" : "")
              + ") server "
              + (away ? "away" : "back")
              + " options (schema_name '"
              + schema
              + "', table_name '"
              + of
              + "')");
      if (random.nextInt(3) == 0) {
        script.add("alter table " + name + " owner to here_u" + random.nextInt(4));
      }
    }
    // one that some of them are part of, directly or as part of another part
    script.add("create table far.w0 (c0 int, c1 int)");
    script.add("create table far.w1 () inherits (far.w0)");
    for (int table = 0; table < 6; table++) {
      if (random.nextInt(4) == 0) {
        script.add("alter foreign table far.f" + table + " inherit far.w" + random.nextInt(2));
      }
    }
    for (int view = 0; view < 4; view++) {
      String under = view == 2 ? "v0" : view == 3 ? "w0" : "f" + random.nextInt(6);
      script.add(
          "create view far.v"
              + view
              + (random.nextInt(3) == 0 ? " with (security_invoker)" : "")
              + " as select c0, c1 from far."
              + under);
      script.add("alter view far.v" + view + " owner to here_" + pick(random, "u0", "u1", "g0"));
    }
    if (random.nextBoolean()) {
      script.add("grant select on all tables in schema far to public");
    }
    for (int grant = 0; grant < 16; grant++) {
      String columns = random.nextInt(4) == 0 ? "(c" + random.nextInt(2) + ")" : "";
      String on =
          pick(
              random, "f0", "f1", "f2", "f3", "f4", "f5", "v0", "v1", "v2", "v3", "w0", "w1",
              "own");
      script.add("grant select " + columns + " on far." + on + " to " + who(random, "here"));
    }
    return script;
  }

  private static void foreignServer(
      List<String> script, Random random, String name, String database, int port) {
    script.add(
        "create server "
            + name
            + " foreign data wrapper postgres_fdw options (host '"
            + pick(random, "127.0.0.1", "localhost")
            + "', port '"
            + port
            + "', dbname '"
            + database
            + "')");
    for (String who : List.of("public", "here_u0", "here_u1", "here_u2", "here_g0", "here_g1")) {
      if (random.nextInt(3) > 0) {
        String login = database + "_" + pick(random, "u0", "u1", "u2", "u3", "u2", "u3", "nobody");
        script.add(
            "create user mapping for "
                + who
                + " server "
                + name
                + " options (user '"
                + login
                + "'"
                + (random.nextInt(3) > 0 ? ", password '" + SECRET + "'" : "")
                + (random.nextInt(2) == 0 ? ", password_required 'false'" : "")
                + ")");
      }
    }
  }

  private Access survey(Side side) throws Exception {
    Access access =
        server.survey(
            side.admin, side.name, List.of(side.name), Clock.systemUTC().instant(), note -> {});
    ByteArrayOutputStream file = new ByteArrayOutputStream();
    SurveyWriter.write(access, file);
    assertThat(file.toString(java.nio.charset.StandardCharsets.UTF_8)).doesNotContain(SECRET);
    return SurveyReader.read("survey", new ByteArrayInputStream(file.toByteArray()));
  }

  private void compare(long seed) throws Exception {
    Access near = survey(here);
    Access far = survey(there);
    Clock clock = Clock.systemUTC();
    Crossing crossing = new Crossing(near, new Atlas(List.of(near, far)), clock);
    for (int at = 0; at < 4; at++) {
      String user = "here_u" + at;
      int id = near.principals().named(user);
      boolean any = near.principals().has(id, Power.SUPERUSER);
      List<String> roles = new ArrayList<>();
      for (int role : Switching.rolesOf(near, clock, id)) {
        roles.add(near.principals().name(role));
      }
      for (String name :
          List.of("f0", "f1", "f2", "f3", "f4", "f5", "v0", "v1", "v2", "v3", "w0", "w1")) {
        int node = new Lookup(near).node("here.far." + name, 0, false).id();
        boolean leaves = crossing.leaves(node);
        if (!leaves && name.matches("v3|w.")) {
          // nothing of it happens to be elsewhere
          continue;
        }
        assertThat(leaves).isTrue();
        for (int column = -1; column < near.tree().columns(node); column++) {
          if (column >= 0 && name.startsWith("v")) {
            continue;
          }
          Crossed told = crossing.read(id, node, column);
          String what = column < 0 ? "*" : near.tree().column(node, column);
          String query = "select " + what + " from far." + name;
          check(seed, user, query, told, any ? List.of() : roles, any);
        }
      }
    }
  }

  private void check(
      long seed, String user, String query, Crossed told, List<String> roles, boolean any)
      throws SQLException {
    String now = refused(user, null, query);
    String asRole = now;
    for (String role : now == null ? List.<String>of() : roles) {
      String said = refused(user, role, query);
      asRole = said == null ? null : asRole;
    }
    Answer answer = told == null ? Answer.CLOSED : told.answer();
    seen.merge(answer, 1, Integer::sum);
    String about =
        "seed " + seed + ", " + user + ": " + query + " told " + legs(told) + ", it says " + now;
    switch (answer) {
      case OPEN -> {
        if (told.state() == State.LIVE) {
          assertThat(now).as(about).isNull();
        } else {
          assertThat(now).as(about).isNotNull();
          assertThat(any || asRole == null).as(about).isTrue();
        }
      }
      case CLOSED -> {
        assertThat(now).as(about).isNotNull();
        assertThat(asRole).as(about).isNotNull();
      }
      default -> assertThat(unknown(told.legs())).as(about).isTrue();
    }
  }

  /** Only where a mapping keeps no secret is it left open whether it works. */
  private static boolean unknown(List<Leg> legs) {
    return legs.stream().anyMatch(leg -> leg.why() == Leg.Why.MAYBE_ASKED || unknown(leg.onward()));
  }

  private static String legs(Crossed told) {
    if (told == null) {
      return "nothing";
    }
    StringBuilder text = new StringBuilder(told.answer() + " " + told.state());
    for (Leg leg : told.legs()) {
      text.append(" ")
          .append(leg.answer())
          .append(" ")
          .append(leg.why())
          .append(" ")
          .append(leg.login());
    }
    return text.toString();
  }

  /** What the server says to a query that it refuses; null where rows come. */
  private String refused(String user, String role, String query) throws SQLException {
    try (Connection connection = here.as(user);
        Statement sql = connection.createStatement()) {
      if (role != null) {
        sql.execute("set role " + role);
      }
      try (ResultSet rows = sql.executeQuery(query)) {
        return rows.next() ? null : "no row";
      } catch (SQLException refused) {
        return refused.getMessage();
      }
    }
  }
}
