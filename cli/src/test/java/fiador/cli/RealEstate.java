package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.servers.jdbc.Login;
import fiador.servers.mariadb.RealMariadb;
import fiador.servers.postgresql.RealPostgresql;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;

/** A real server with something on it, and a folder with a charter for it. */
public final class RealEstate {
  private static final int VERSION = 18;
  private static final AtomicInteger DATABASES = new AtomicInteger();

  final Path folder;
  final String kind;
  public final Login login;

  /** A secret that each new user of a charter may be given. */
  private static final String SECRET = "not to be guessed";

  private RealEstate(Path folder, String kind, Login login) {
    this.folder = folder;
    this.kind = kind;
    this.login = login;
  }

  /** A fresh database on the PostgreSQL server that all tests share, without what others left. */
  public static RealEstate postgresql(Path folder, String... setup) throws Exception {
    Login server = RealPostgresql.login(VERSION);
    RealEstate home = new RealEstate(folder, "postgresql", server);
    for (String old :
        home.ask(
            "select quote_ident(datname) from pg_database where datname !~ '^(postgres|template.)$'")) {
      home.run("drop database " + old + " with (force)");
    }
    for (String old :
        home.ask("select quote_ident(rolname) from pg_roles where rolname !~ '^(postgres$|pg_)'")) {
      home.run("drop owned by " + old, "drop role " + old);
    }
    // another test may have built something where all of them log in
    for (String old :
        home.ask(
            "select quote_ident(nspname) from pg_namespace where nspname !~ '^(pg_|information_schema$|public$)'")) {
      home.run("drop schema " + old + " cascade");
    }
    for (String old :
        home.ask(
            "select quote_ident(relname) from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace")) {
      home.run("drop table public." + old + " cascade");
    }
    String database = "e" + DATABASES.incrementAndGet();
    home.run("create database " + database);
    String url = server.url().replaceFirst("/postgres$", "/" + database);
    RealEstate estate =
        new RealEstate(folder, "postgresql", new Login(url, server.user(), server.password()));
    estate.run(setup);
    return estate;
  }

  /** The MariaDB server that all tests share, without what the one before left there. */
  public static RealEstate mariadb(Path folder, String... setup) throws Exception {
    RealEstate estate = new RealEstate(folder, "mariadb", RealMariadb.login());
    for (String old :
        estate.ask(
            "select schema_name from information_schema.schemata where schema_name not in"
                + " ('mysql', 'information_schema', 'performance_schema', 'sys', 'test')")) {
      estate.run("drop database `" + old + "`");
    }
    for (String old :
        estate.ask(
            "select if(is_role = 'Y', concat('role `', user, '`'),"
                + " concat('user `', user, '`@`', host, '`')) from mysql.user"
                + " where user not in ('root', 'mariadb.sys', 'PUBLIC', '')")) {
      estate.run("drop " + old);
    }
    estate.run(setup);
    return estate;
  }

  /** A fresh HSQLDB in memory. */
  public static RealEstate hsqldb(Path folder, String... setup) throws Exception {
    String url = "jdbc:hsqldb:mem:e" + DATABASES.incrementAndGet();
    RealEstate estate = new RealEstate(folder, "hsqldb", new Login(url, "SA", ""));
    estate.run(setup);
    return estate;
  }

  /** A fresh H2 in the folder, known by its house sheet. */
  static RealEstate h2(Path folder, String... setup) throws Exception {
    String url = "jdbc:h2:" + folder.resolve("h2-" + DATABASES.incrementAndGet());
    RealEstate estate = new RealEstate(folder, "house/h2", new Login(url, "SA", ""));
    estate.run(setup);
    return estate;
  }

  public Connection connect(String user, String password) throws SQLException {
    return DriverManager.getConnection(login.url(), user, password);
  }

  /** Runs statements as the administrator, by a plain connection. */
  public void run(String... statements) throws SQLException {
    as(login.user(), login.password(), statements);
  }

  /** Runs statements as somebody. */
  public void as(String user, String password, String... statements) throws SQLException {
    try (Connection connection = connect(user, password);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  /** The first column of what a query gives. */
  public List<String> ask(String query) throws SQLException {
    return ask(login.user(), login.password(), query);
  }

  /** The same, as somebody who has no secret. */
  List<String> askAs(String user, String query) throws SQLException {
    return ask(user, "", query);
  }

  private List<String> ask(String user, String password, String query) throws SQLException {
    List<String> answers = new ArrayList<>();
    try (Connection connection = connect(user, password);
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        answers.add(rows.getString(1));
      }
    }
    return answers;
  }

  /** Writes the charter: what stands behind the server's entry. */
  public RealEstate charter(String rest) throws IOException {
    return charter(login.user(), rest);
  }

  /** Writes the charter for a login of its own. */
  public RealEstate charter(String user, String rest) throws IOException {
    Files.writeString(
        folder.resolve("fiador.yaml"),
        "fiador: 1\nestate: it\nservers:\n  it: {kind: "
            + kind
            + ", url: '"
            + login.url()
            + "', login: "
            + user
            + "}\n"
            + rest);
    return this;
  }

  /** A command about the charter. */
  public Program fiador(String... args) {
    List<String> all = new ArrayList<>(List.of(args));
    all.addAll(List.of("--charter", folder.toString()));
    return Program.run(all.toArray(String[]::new));
  }

  /** A question, answered from the newest survey. */
  Program asked(String... args) {
    List<String> all = new ArrayList<>(List.of(args));
    all.addAll(List.of("--from", folder.toString()));
    return Program.run(all.toArray(String[]::new));
  }

  /** Settles with a secret for whoever is new. */
  Program settle(String... args) {
    List<String> all = new ArrayList<>(List.of(args));
    all.addAll(List.of("-q", "--charter", folder.toString()));
    return Program.settle(SECRET, all.toArray(String[]::new));
  }

  /** Settles once and wants no gap behind that. */
  Program settled(String... args) {
    Program settled = settle(args);
    assertThat(settled.code).as(settled.out + settled.err).isZero();
    Program gap = fiador("gap");
    assertThat(gap.code).as(settled.out + settled.err + gap.out + gap.err).isZero();
    return settled;
  }

  /** Takes it back. */
  Program undone() {
    Program undone = settle("--undo");
    assertThat(undone.code).as(undone.out + undone.err).isZero();
    return undone;
  }
}
