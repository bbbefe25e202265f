package fiador.servers;

import fiador.changes.Step;
import fiador.estate.NodeKind;
import fiador.estate.PrivilegeSet;
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
   */
  default String sql(Step step) {
    if (step instanceof Step.CreateRole role) {
      return "CREATE ROLE " + quoted(role.role());
    } else if (step instanceof Step.CreateUser user) {
      return createUser(user.user(), "'" + HIDDEN + "'");
    } else if (step instanceof Step.GiveRole give) {
      return "GRANT " + quoted(give.role()) + " TO " + quoted(give.member());
    } else if (step instanceof Step.Grant grant) {
      return "GRANT "
          + privileges(grant.privileges(), grant.columns())
          + " ON "
          + on(grant.on())
          + " TO "
          + quoted(grant.grantee())
          + (grant.grantOption() ? " WITH GRANT OPTION" : "");
    } else if (step instanceof Step.GrantLater later) {
      return grantLater(later);
    }
    throw new IllegalArgumentException("no SQL for " + step);
  }

  /** The statement that really creates a user. The result holds what must not be shown. */
  String createUser(String user, char[] secret) throws ServerException;

  /** As the other, with the secret's literal already written. */
  String createUser(String user, String secretLiteral);

  /** The statement for what will be created later. */
  String grantLater(Step.GrantLater later);

  /** Whether statements of this kind can be undone by rolling back. */
  boolean transactional();

  /** The word before an object's name in a grant. */
  default String word(NodeKind kind) {
    return switch (kind) {
      case TABLE, VIEW, MATERIALIZED_VIEW -> "TABLE";
      default -> kind.name();
    };
  }

  /** What a grant is on, with its word. */
  default String on(Step.On on) {
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
    int open = nameAndTypes.indexOf('(');
    return quoted(nameAndTypes.substring(0, open)) + nameAndTypes.substring(open);
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
