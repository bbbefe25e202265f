package fiador.servers.sheet;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/** Random statements of an administrator; those that are senseless do nothing. */
abstract class RandomDeeds {
  private static final String[] ODD = {
    "UP%d",
    "with blank %d",
    "dot.ted%d",
    "quo\"te%d",
    "\u00fcn\u00ef%d",
    "semi;%d",
    "it's%d",
    "PLAIN_%d"
  };

  final Connection admin;
  final List<String> users;
  final List<String> roles;
  final List<String> schemas = new ArrayList<>();
  final List<String> tables = new ArrayList<>();
  final List<String> script = new ArrayList<>();
  private final Random random;
  private final IntPredicate kept;
  int asked;
  int done;

  /** Of whose statements those are carried out that are kept, by number. */
  RandomDeeds(Connection admin, long seed, int people, IntPredicate kept) {
    this.admin = admin;
    this.random = new Random(seed);
    this.kept = kept;
    this.users =
        IntStream.range(0, people).mapToObj(i -> ("U" + odd(i)).toUpperCase(Locale.ROOT)).toList();
    this.roles =
        IntStream.range(0, people).mapToObj(i -> ("R" + odd(i)).toUpperCase(Locale.ROOT)).toList();
  }

  /** Makes all of it. */
  abstract void build();

  final String odd(int i) {
    return ODD[(i + random.nextInt(2)) % ODD.length].formatted(i);
  }

  final <T> T any(List<T> list) {
    return list.get(random.nextInt(list.size()));
  }

  final String any(String... words) {
    return words[random.nextInt(words.length)];
  }

  final boolean chance(int percent) {
    return random.nextInt(100) < percent;
  }

  final int below(int bound) {
    return random.nextInt(bound);
  }

  /** Gives a role to a user, to everybody or to a later role, so that no circle closes. */
  final void giveRole(int toEverybody) {
    int role = below(roles.size());
    int later = role + 1 + below(roles.size());
    boolean user = later >= roles.size() || chance(50);
    String member = chance(toEverybody) ? "PUBLIC" : q(user ? any(users) : roles.get(later));
    run("GRANT " + q(roles.get(role)) + " TO " + member);
  }

  /** Whether it was done. */
  final boolean run(String sql) {
    return run(admin, sql);
  }

  /** As the other, by somebody else. */
  final boolean run(Connection who, String sql) {
    if (!kept.test(asked++)) {
      return false;
    }
    try {
      execute(who, sql);
      script.add(sql + ";");
      done++;
      return true;
    } catch (SQLException senseless) {
      return false;
    }
  }

  static void execute(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  static String q(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }
}
