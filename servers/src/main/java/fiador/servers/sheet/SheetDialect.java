package fiador.servers.sheet;

import fiador.changes.steps.On;
import fiador.changes.steps.Step;
import fiador.effects.Switch;
import fiador.estate.DottedName;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.rules.HouseFact;
import fiador.houses.Expression;
import fiador.houses.HouseSheet;
import fiador.houses.Pattern;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.OneSecret;
import fiador.servers.kind.SecretSql;
import fiador.servers.policies.SightStatements;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.StringJoiner;
import org.jspecify.annotations.Nullable;

/** Writes a kind of server's statements as its house sheet says. */
public final class SheetDialect implements Dialect {
  private final HouseSheet sheet;

  /** That of a sheet. */
  public SheetDialect(HouseSheet sheet) {
    this.sheet = sheet;
  }

  @Override
  public List<String> statements(Step step) {
    return step.match(new SheetStatements(this));
  }

  /**
   * A statement with everything in its place.
   *
   * @param names what stands in each place; a place in quotes gets it as a text, and one without as
   *     it is
   * @throws IllegalArgumentException when the sheet has no such statement
   */
  String write(Pattern pattern, Map<String, String> names) {
    return filled(pattern, sheet.writing().of(pattern), names);
  }

  /** The same, about a kind of thing. */
  String write(Pattern pattern, NodeKind on, Map<String, String> names) {
    return filled(pattern, sheet.writing().of(pattern, on), names);
  }

  private String filled(Pattern pattern, @Nullable String text, Map<String, String> names) {
    if (text == null) {
      throw new IllegalArgumentException(
          "the sheet of " + sheet.kind() + " has no statement " + pattern.word());
    }
    StringBuilder written = new StringBuilder();
    for (Expression.Part part : Expression.of(text).parts()) {
      written.append(part.isColumn() ? placed(part.text(), names) : part.text());
    }
    return written.toString();
  }

  /** {@code {user}} is a name in SQL, {@code {'user'}} a text, {@code {'"user"'}} both. */
  private String placed(String place, Map<String, String> names) {
    String name = Pattern.bare(place);
    String sql = names.getOrDefault(name, "");
    if (place.startsWith("'\"")) {
      return literal(sql);
    }
    return place.startsWith("'") ? literal(names.getOrDefault(name + " as it is", sql)) : sql;
  }

  /** A text in SQL. */
  String literal(String text) {
    boolean escapes = sheet.rules().has(HouseFact.BACKSLASHES_ESCAPE);
    String escaped = escapes ? text.replace("\\", "\\\\") : text;
    return "'" + escaped.replace("'", "''") + "'";
  }

  /** A name for {@link #write}, as SQL and as it is. */
  Map<String, String> name(String place, String name) {
    return Map.of(place, principal(name), place + " as it is", name);
  }

  /** Two names. */
  Map<String, String> names(String place, String name, String otherPlace, String other) {
    return Map.of(
        place,
        principal(name),
        place + " as it is",
        name,
        otherPlace,
        principal(other),
        otherPlace + " as it is",
        other);
  }

  @Override
  public String principal(String name) {
    String everybody = sheet.reading().everybody();
    return name.equals("PUBLIC") && everybody != null ? everybody : quoted(name);
  }

  @Override
  public String quoted(String name) {
    String quote = String.valueOf(sheet.rules().names().quote());
    return quote + name.replace(quote, quote + quote) + quote;
  }

  @Override
  public String on(On on) {
    boolean called = on.procedure() && sheet.writing().procedure() != null;
    String word =
        called ? sheet.writing().procedure() : sheet.writing().words().getOrDefault(on.kind(), "");
    StringJoiner name = new StringJoiner(".");
    if (on.database() != null && on.kind() != NodeKind.DATABASE) {
      name.add(quoted(on.database()));
    }
    for (int i = 0; i < on.parts().size(); i++) {
      String part = on.parts().get(i);
      boolean routine = on.kind() == NodeKind.ROUTINE && i == on.parts().size() - 1;
      name.add(quoted(routine ? DottedName.withoutArguments(part) : part));
    }
    return word == null || word.isEmpty() ? name.toString() : (word + " " + name).strip();
  }

  @Override
  public String privileges(long privileges, List<String> columns) {
    StringJoiner words = new StringJoiner(", ");
    StringJoiner names = new StringJoiner(", ", " (", ")");
    columns.forEach(column -> names.add(quoted(column)));
    for (Privilege privilege : PrivilegeSet.list(privileges)) {
      String usual = privilege.text().toUpperCase(Locale.ROOT);
      String word = sheet.writing().spelled().getOrDefault(privilege, usual);
      words.add(word + (columns.isEmpty() ? "" : names));
    }
    return words.toString();
  }

  @Override
  public String client() {
    return sheet.writing().client();
  }

  @Override
  public List<String> createUser(Connection connection, String user, char[] secret) {
    return List.of(createUser(user, literal(new String(secret))));
  }

  @Override
  public String createUser(String user, String secretLiteral) {
    return withSecret(Pattern.CREATE_USER, user, secretLiteral);
  }

  private String withSecret(Pattern pattern, String user, String literal) {
    return write(
        pattern, Map.of("user", principal(user), "user as it is", user, "secret", literal));
  }

  /** Where no account can be without a secret, a comment says what is to be run. */
  @Override
  public String createWithoutSecret(String user) {
    if (sheet.writing().of(Pattern.CREATE_USER_WITHOUT_SECRET) != null) {
      return write(Pattern.CREATE_USER_WITHOUT_SECRET, name("user", user));
    }
    return "-- " + createUser(user, HIDDEN).replaceAll("[\\r\\n\\u0085\\u2028\\u2029]", " ");
  }

  @Override
  public String howToSetSecret() {
    boolean none = sheet.writing().of(Pattern.CREATE_USER_WITHOUT_SECRET) == null;
    return none
        ? "run the next line with a secret in its place, before all that follows"
        : sheet.writing().of(Pattern.SET_SECRET) == null
            ? "set one as this kind of server has it"
            : withSecret(Pattern.SET_SECRET, "NAME", "'...'") + " gives one";
  }

  @Override
  public SecretSql secrets() {
    return new OneSecret(
        (user, literal) -> withSecret(Pattern.SET_SECRET, user, literal),
        (user, secret) -> literal(new String(secret)));
  }

  @Override
  public @Nullable String become(String user) {
    return sheet.writing().of(Pattern.BECOME_USER) == null
        ? null
        : write(Pattern.BECOME_USER, name("user", user));
  }

  @Override
  public String sql(Switch to) {
    Pattern pattern = to.role() == null ? Pattern.SWITCH_TO_NO_ROLE : Pattern.SWITCH_TO_ROLE;
    if (sheet.writing().of(pattern) == null) {
      return Dialect.super.sql(to);
    }
    return write(pattern, to.role() == null ? Map.of() : name("role", to.role()));
  }

  /** Nothing can be rolled back where each statement takes effect by itself. */
  @Override
  public void beginReadOnly(Connection connection) throws SQLException {
    connection.setReadOnly(true);
    if (sheet.writing().undoable()) {
      connection.setAutoCommit(false);
    }
  }

  @Override
  public boolean asksRights() {
    return sheet.writing().of(Pattern.ASK_RIGHTS) != null;
  }

  @Override
  public void checkRights(Connection connection, String statement) throws SQLException {
    try (Statement sql = connection.createStatement()) {
      sql.execute(write(Pattern.ASK_RIGHTS, Map.of("statement", statement)));
    }
  }

  @Override
  public String table(Tree tree, int node) {
    int database = tree.enclosing(node, NodeKind.DATABASE);
    String path = Dialect.super.table(tree, node);
    return database < 0 ? path : quoted(tree.name(database)) + "." + path;
  }

  @Override
  public SightStatements policies() {
    throw new IllegalArgumentException(
        "the sheet of " + sheet.kind() + " does not say how policies are put there");
  }

  @Override
  public boolean transactional() {
    return sheet.writing().undoable();
  }

  /** No sheet says how a script begins a transaction; each statement stands for itself. */
  @Override
  public boolean scriptsTogether() {
    return false;
  }
}
