package fiador.servers.hsqldb;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Reads the GRANT statements of the script in which HSQLDB writes itself down, for instance {@code
 * GRANT SELECT(A,B),INSERT ON TABLE S.T TO R}.
 */
final class GrantScript {
  private final String text;
  private int at;

  private GrantScript(String text) {
    this.text = text;
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
    return new GrantScript(line).statement();
  }

  private Statement statement() {
    word();
    List<Action> actions = new ArrayList<>();
    do {
      actions.add(action());
    } while (take(','));
    if (!"ON".equals(word())) {
      return null;
    }
    StringBuilder kind = new StringBuilder(word());
    if ("SPECIFIC".contentEquals(kind)) {
      kind.append(' ').append(word());
    }
    List<String> object = new ArrayList<>();
    do {
      object.add(name());
    } while (take('.'));
    word();
    return new Statement(actions, kind.toString(), object, name());
  }

  private Action action() {
    String name = name().toLowerCase(Locale.ROOT);
    List<String> columns = new ArrayList<>();
    if (take('(')) {
      do {
        columns.add(name());
      } while (take(','));
      take(')');
    }
    return new Action(name, columns);
  }

  private String word() {
    skipBlanks();
    int from = at;
    while (at < text.length() && Character.isLetter(text.charAt(at))) {
      at++;
    }
    return text.substring(from, at);
  }

  private String name() {
    skipBlanks();
    if (at < text.length() && text.charAt(at) == '"') {
      StringBuilder name = new StringBuilder();
      for (at++; at < text.length(); at++) {
        if (text.charAt(at) == '"') {
          if (at + 1 >= text.length() || text.charAt(at + 1) != '"') {
            at++;
            break;
          }
          at++;
        }
        name.append(text.charAt(at));
      }
      return name.toString();
    }
    int from = at;
    while (at < text.length() && " ,.()".indexOf(text.charAt(at)) < 0) {
      at++;
    }
    return text.substring(from, at);
  }

  private boolean take(char wanted) {
    skipBlanks();
    boolean there = at < text.length() && text.charAt(at) == wanted;
    at += there ? 1 : 0;
    return there;
  }

  private void skipBlanks() {
    while (at < text.length() && text.charAt(at) == ' ') {
      at++;
    }
  }
}
