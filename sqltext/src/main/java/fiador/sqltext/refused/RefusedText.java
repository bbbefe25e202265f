package fiador.sqltext.refused;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What a server means when it says that somebody may not do something. Servers name the thing, some
 * without its schema, and some the privilege.
 *
 * @param kinds what the thing may be
 * @param name its name as the server wrote it, with dots between parts, or alone
 * @param column the column it is about, or null
 * @param privileges those of which one is missing; empty where the server does not say
 */
public record RefusedText(
    Set<NodeKind> kinds, String name, @Nullable String column, List<Privilege> privileges) {
  /** No message is longer, and a longer text would take the patterns long. */
  private static final int LONGEST = 5_000;

  private static final Set<NodeKind> RELATIONS =
      Set.of(NodeKind.TABLE, NodeKind.VIEW, NodeKind.MATERIALIZED_VIEW);

  /** PostgreSQL names the kind and, alone, the thing. */
  private static final Pattern DENIED_FOR =
      Pattern.compile(
          "permission denied for (foreign table|materialized view|table|view|relation|sequence"
              + "|schema|database|function|procedure|routine) \"?([^\"\\n]+?)\"?\\s*$",
          Pattern.CASE_INSENSITIVE | Pattern.MULTILINE);

  /** MariaDB names the privileges and the thing with its schema. */
  private static final Pattern COMMAND_DENIED =
      Pattern.compile(
          "([A-Z][A-Z, ]*?) command denied to user .*? for (table|routine) "
              + "['`]([^'`]+)['`](?:\\.['`]([^'`]+)['`])?",
          Pattern.CASE_INSENSITIVE);

  private static final Pattern COLUMN_DENIED =
      Pattern.compile(
          "([A-Z][A-Z, ]*?) command denied to user .*? for column '([^']+)' in table '([^']+)'",
          Pattern.CASE_INSENSITIVE);

  private static final Pattern DATABASE_DENIED =
      Pattern.compile("access denied for user .*? to database '([^']+)'", Pattern.CASE_INSENSITIVE);

  /** HSQLDB names the thing alone, and says the same of what is not there. */
  private static final Pattern LACKS =
      Pattern.compile(
          "user lacks privilege or object not found: ([^\\s\\[]+)", Pattern.CASE_INSENSITIVE);

  /** What is meant; empty where it is none of what the known servers say. */
  public static Optional<RefusedText> read(String text) {
    String said = text.substring(0, Math.min(LONGEST, text.length()));
    Matcher column = COLUMN_DENIED.matcher(said);
    if (column.find()) {
      return Optional.of(
          new RefusedText(
              RELATIONS, column.group(3), column.group(2), privileges(column.group(1))));
    }
    Matcher command = COMMAND_DENIED.matcher(said);
    if (command.find()) {
      boolean routine = command.group(2).equalsIgnoreCase("routine");
      String second = command.group(4);
      String name = second == null ? command.group(3) : command.group(3) + "." + second;
      return Optional.of(
          new RefusedText(
              routine ? Set.of(NodeKind.ROUTINE) : RELATIONS,
              name,
              null,
              privileges(command.group(1))));
    }
    Matcher denied = DENIED_FOR.matcher(said);
    if (denied.find()) {
      return Optional.of(new RefusedText(kinds(denied.group(1)), denied.group(2), null, List.of()));
    }
    Matcher database = DATABASE_DENIED.matcher(said);
    if (database.find()) {
      return Optional.of(
          new RefusedText(Set.of(NodeKind.SCHEMA), database.group(1), null, List.of()));
    }
    Matcher lacks = LACKS.matcher(said);
    return lacks.find()
        ? Optional.of(new RefusedText(Set.of(NodeKind.values()), lacks.group(1), null, List.of()))
        : Optional.empty();
  }

  private static Set<NodeKind> kinds(String said) {
    return switch (said.toLowerCase(Locale.ROOT)) {
      case "sequence" -> Set.of(NodeKind.SEQUENCE);
      case "schema" -> Set.of(NodeKind.SCHEMA);
      case "database" -> Set.of(NodeKind.DATABASE);
      case "function", "procedure", "routine" -> Set.of(NodeKind.ROUTINE);
      default -> RELATIONS;
    };
  }

  private static List<Privilege> privileges(String said) {
    List<Privilege> found = new ArrayList<>();
    for (String word : said.split(",", -1)) {
      Privilege privilege = Privilege.named(word.strip().toLowerCase(Locale.ROOT));
      if (privilege != null) {
        found.add(privilege);
      }
    }
    return List.copyOf(found);
  }
}
