package fiador.servers.kind;

import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.GrantLater;
import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.LimitInTime;
import fiador.changes.steps.On;
import fiador.changes.steps.Rename;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.SetPower;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.effects.Switch;
import fiador.estate.DottedName;
import fiador.estate.NodeKind;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.servers.jdbc.ServerException;
import fiador.servers.policies.SightStatements;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Locale;
import java.util.StringJoiner;

/** Writes one kind of server's SQL. Every name is quoted, so that no name can break out. */
public interface Dialect {
  /** What stands for a secret wherever a statement is shown. */
  String HIDDEN = "(secret)";

  /**
   * The statement of a step; for a user with {@link #HIDDEN} where its secret belongs, to be shown
   * and not to be run.
   *
   * @throws IllegalArgumentException when this kind of server has no such statement
   */
  default String sql(Step step) {
    return String.join(";\n", statements(step));
  }

  /** The server's own client, as it is called with a script. */
  String client();

  /**
   * What a script begins with: it means the same in whoever's session it is run, and stops on
   * another server. Whole lines.
   *
   * @param identity what tells the server from others; empty where that is not known
   */
  default List<String> scriptHead(String identity) {
    return List.of();
  }

  /**
   * What takes a script to a database. Whole lines.
   *
   * @throws ServerException when the client cannot be told that name
   */
  default List<String> scriptDatabase(String database, String identity) throws ServerException {
    return List.of();
  }

  /** The statement that creates a user who cannot log in by a secret until they are given one. */
  String createWithoutSecret(String user);

  /** How such a user is given a secret, for whoever runs a script. */
  String howToSetSecret();

  /** Whether this kind of server has a statement for a step. */
  default boolean has(Step step) {
    try {
      sql(step);
      return true;
    } catch (IllegalArgumentException none) {
      return false;
    }
  }

  /**
   * The statements of a step, in their order; only a few steps have several.
   *
   * @throws IllegalArgumentException when this kind of server has no such statement
   */
  default List<String> statements(Step step) {
    return step.match(new StepStatements(this));
  }

  /** Writes the statements that put policies on the server. */
  SightStatements policies();

  /** Gives a user or role another name. */
  default String rename(Rename step) {
    throw none(step);
  }

  /** Gives a user or role a power, or takes it. */
  default String setPower(SetPower step) {
    throw none(step);
  }

  /** Lets a user log in, or no longer. */
  default String letLogIn(LetLogIn step) {
    throw none(step);
  }

  /** Sets until when a user can log in. */
  default String limitInTime(LimitInTime step) {
    throw none(step);
  }

  /** Sets what the server keeps a user to. */
  default String limitAccount(LimitAccount step) {
    throw none(step);
  }

  /** Makes a role the one that is on at login. */
  default String defaultRole(DefaultRole step) {
    throw none(step);
  }

  /** Grants on what will be created. */
  default String grantLater(GrantLater step) {
    throw none(step);
  }

  /** Takes back what was granted on what will be created. */
  default String revokeLater(RevokeLater step) {
    throw none(step);
  }

  /** Gives something another owner. */
  default String changeOwner(ChangeOwner step) {
    throw none(step);
  }

  private static IllegalArgumentException none(Step step) {
    return new IllegalArgumentException("this kind of server has no statement for " + step);
  }

  /**
   * Steps and what carries them out.
   *
   * @param sql as it is shown
   * @param statements as they are sent
   */
  record Batch(String sql, List<String> statements, List<Step> steps) {
    /** One statement. */
    public Batch(String sql, List<Step> steps) {
      this(sql, List.of(sql), steps);
    }
  }

  /** A step on its own. */
  default Batch batch(Step step) {
    return new Batch(sql(step), statements(step), List.of(step));
  }

  /** The statements of several steps, in an order that is as good; some may share one. */
  default List<Batch> batches(List<Step> steps) {
    return steps.stream().map(this::batch).toList();
  }

  /** The statements of several steps as they are shown, grouped as they are sent. */
  default List<String> shown(List<Step> steps) {
    return batches(steps).stream().map(Batch::sql).toList();
  }

  /** A grant. */
  default String grant(
      long privileges, On on, List<String> columns, String grantee, boolean option) {
    return "GRANT "
        + privileges(privileges, columns)
        + " ON "
        + on(on)
        + " TO "
        + principal(grantee)
        + (option ? " WITH GRANT OPTION" : "");
  }

  /**
   * A revoke.
   *
   * @param what privileges in SQL, or the right to grant them
   * @param grantor who gave it, or null
   */
  default String revoke(String what, On on, String grantee, String grantor) {
    return "REVOKE " + what + " ON " + on(on) + " FROM " + principal(grantee);
  }

  /** What to revoke where the right to grant it on goes too, which it does by itself. */
  default String withOption(String what) {
    return what;
  }

  /** Gives a role, or changes how it is held. */
  default String giveRole(GiveRole give) {
    boolean admin = give.how().admin();
    if (give.before() != null && give.before().admin() && !admin) {
      return "REVOKE ADMIN OPTION FOR "
          + principal(give.role())
          + " FROM "
          + principal(give.member());
    }
    return "GRANT "
        + principal(give.role())
        + " TO "
        + principal(give.member())
        + (admin ? " WITH ADMIN OPTION" : "");
  }

  /** Takes a role. */
  default String takeRole(TakeRole take) {
    return "REVOKE " + principal(take.role()) + " FROM " + principal(take.member());
  }

  /** A user's or role's name in SQL; PUBLIC is everybody, and no name. */
  default String principal(String name) {
    return name.equals("PUBLIC") ? name : quoted(name);
  }

  /** The statement that makes an administrator's session act as a user; null if there is none. */
  default String become(String user) {
    return null;
  }

  /** The statement that turns a role on that has to be switched to, or all off. */
  default String sql(Switch to) {
    return "SET ROLE " + (to.role() == null ? "NONE" : quoted(to.role()));
  }

  /**
   * Begins a transaction in which the server itself lets nothing be written.
   *
   * @param connection with nothing begun on it
   */
  default void beginReadOnly(Connection connection) throws SQLException {
    connection.setReadOnly(true);
    connection.setAutoCommit(false);
  }

  /** Begins a transaction in which only rights are asked about; see {@link #checkRights}. */
  default void beginAsking(Connection connection) throws SQLException {
    beginReadOnly(connection);
  }

  /** Lets a read fail rather than leave out rows that row rules hide from the login itself. */
  default void seeAllRows(Connection connection) throws SQLException {}

  /**
   * Lets the server check whether a statement is allowed, without carrying it out.
   *
   * @throws SQLException what the server has against it; see {@link #isRefusal}
   */
  default void checkRights(Connection connection, String statement) throws SQLException {
    throw new IllegalStateException("nobody can act as somebody else here");
  }

  /** Whether {@link #checkRights} gets an answer where {@link #become} works. */
  default boolean asksRights() {
    return true;
  }

  /** A table's or view's name in a statement on a connection to its database. */
  default String table(Tree tree, int node) {
    return quoted(tree.name(tree.parent(node))) + "." + quoted(tree.name(node));
  }

  /** Whether the server refused for want of rights, and not for another reason. */
  default boolean isRefusal(SQLException refused) {
    return refused.getSQLState() != null && refused.getSQLState().startsWith("42501");
  }

  /**
   * Keeps others from settling on the server until the connection is closed; the login's rights
   * decide whether others could do that too.
   *
   * @return null when it is held; else who holds it and since when, as far as the server says
   */
  default String lock(Connection connection) throws SQLException {
    return null;
  }

  /** Whether a statement gave up waiting for what somebody else holds. */
  default boolean isLockTimeout(SQLException refused) {
    return false;
  }

  /**
   * The statements that really create a user. They hold no secret where the server takes what can
   * be worked out from one, and are never shown.
   *
   * @param connection to ask what the server takes
   */
  List<String> createUser(Connection connection, String user, char[] secret)
      throws ServerException, SQLException;

  /** As one statement, with the secret's literal already written. */
  String createUser(String user, String secretLiteral);

  /** Writes the statements about the secrets of accounts that are there. */
  SecretSql secrets();

  /** Whether statements of this kind can be undone by rolling back. */
  boolean transactional();

  /** Whether a script holds its statements together in a transaction. */
  default boolean scriptsTogether() {
    return transactional();
  }

  /** The word before an object's name in a grant. */
  default String word(NodeKind kind) {
    return switch (kind) {
      case TABLE, VIEW, MATERIALIZED_VIEW -> "TABLE";
      default -> kind.name();
    };
  }

  /** What a grant is on, with its word. */
  default String on(On on) {
    StringJoiner name = new StringJoiner(".");
    for (int i = 0; i < on.parts().size(); i++) {
      String part = on.parts().get(i);
      boolean routine = on.kind() == NodeKind.ROUTINE && i == on.parts().size() - 1;
      name.add(routine ? routine(part) : quoted(part));
    }
    return word(on.kind()) + " " + name;
  }

  /** A routine's name with its argument types. */
  default String routine(String nameAndTypes) {
    String name = DottedName.withoutArguments(nameAndTypes);
    return quoted(name) + nameAndTypes.substring(name.length());
  }

  /** Privileges in SQL, each with its columns. */
  default String privileges(long privileges, List<String> columns) {
    StringJoiner words = new StringJoiner(", ");
    StringJoiner names = new StringJoiner(", ", " (", ")");
    columns.forEach(column -> names.add(quoted(column)));
    PrivilegeSet.list(privileges)
        .forEach(
            privilege ->
                words.add(
                    privilege.text().toUpperCase(Locale.ROOT) + (columns.isEmpty() ? "" : names)));
    return words.toString();
  }

  /** A name in SQL. */
  default String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }
}
