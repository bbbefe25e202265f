package fiador.servers.hsqldb;

import fiador.grants.rules.HsqldbRules;
import fiador.sqltext.SqlReader;
import fiador.sqltext.SqlToken;
import fiador.sqltext.SqlToken.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Reads the GRANT statements of the script in which HSQLDB writes itself down, for instance {@code
 * GRANT SELECT(A,B),INSERT ON TABLE S.T TO R}.
 */
final class GrantScript {
  private static final SqlReader SQL = new SqlReader(HsqldbRules.rules());
  private static final SqlToken END = new SqlToken(Kind.SIGN, "", (char) 0, 0, 0);

  private final List<SqlToken> tokens;
  private int at;

  private GrantScript(List<SqlToken> tokens) {
    this.tokens = tokens;
  }

  /**
   * A privilege of a statement.
   *
   * @param name in lower case, {@code all} for all
   * @param columns empty for the whole
   */
  record Action(String name, List<String> columns) {}

  /**
   * A statement.
   *
   * @param actions what is given
   * @param kind the words before the object's name: {@code TABLE}, {@code SEQUENCE}, {@code
   *     SPECIFIC FUNCTION}
   * @param object the parts of the object's name
   * @param grantee to whom
   */
  record Statement(List<Action> actions, String kind, List<String> object, String grantee) {}

  /** Reads one line of the script; null when it grants no privilege on an object. */
  static Statement read(String line) {
    if (!line.startsWith("GRANT ")) {
      return null;
    }
    return new GrantScript(SQL.tokens(line)).statement();
  }

  private Statement statement() {
    next();
    List<Action> actions = new ArrayList<>();
    do {
      actions.add(action());
    } while (take(","));
    if (!next().is("ON")) {
      return null;
    }
    String kind = next().text();
    if (kind.equals("SPECIFIC")) {
      kind += " " + next().text();
    }
    List<String> object = new ArrayList<>();
    do {
      object.add(next().text());
    } while (take("."));
    next();
    return new Statement(actions, kind, object, next().text());
  }

  private Action action() {
    String name = next().text().toLowerCase(Locale.ROOT);
    List<String> columns = new ArrayList<>();
    if (take("(")) {
      do {
        columns.add(next().text());
      } while (take(","));
      take(")");
    }
    return new Action(name, columns);
  }

  private SqlToken next() {
    return at < tokens.size() ? tokens.get(at++) : END;
  }

  private boolean take(String sign) {
    boolean there = at < tokens.size() && tokens.get(at).is(sign);
    at += there ? 1 : 0;
    return there;
  }
}
