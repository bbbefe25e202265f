package fiador.grants;

import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What a server keeps that decides on rows and columns.
 *
 * @param kept what was made from policies of a charter, by the view's or the table's node
 * @param filters the tables whose rows the server filters itself, by their nodes
 * @param attributes what is known of users for policies
 * @param lookups the lookup tables that policies may read
 * @param guards the guarded schemas in which that is kept, by the node of their database, or 0
 * @param doubts the guarded schemas that were found and not believed, by the node of their
 *     database, or 0
 * @param seals what the charter seals; no server keeps that, but who reads its survey wants to know
 * @param fills how tables fill their columns, by their nodes, on servers that have to be told so
 *     when a view takes a table's name
 */
public record Sights(
    Map<Integer, Kept> kept,
    Map<Integer, Filter> filters,
    List<Attribute> attributes,
    List<LookupTable> lookups,
    Map<Integer, Integer> guards,
    Map<Integer, Doubt> doubts,
    List<Seal> seals,
    Map<Integer, Fills> fills) {
  /** Nothing decides. */
  public static final Sights NONE =
      new Sights(Map.of(), Map.of(), List.of(), List.of(), Map.of(), Map.of(), List.of(), Map.of());

  /**
   * What was made from policies.
   *
   * @param table the table whose rows and columns it shows
   * @param policies the policies, as they were when it was made
   * @param asMade whether the server still has it as it was made
   */
  public record Kept(int table, String policies, boolean asMade) {}

  /**
   * How the server filters the rows of a table itself.
   *
   * @param enabled whether it does at present
   * @param forced whether the owner is filtered too
   * @param rules its rules
   */
  public record Filter(boolean enabled, boolean forced, List<Rule> rules) {}

  /**
   * A rule of such a filter.
   *
   * @param name its name
   * @param any whether one such rule is enough; else all must pass
   * @param commands the privileges it is about
   * @param roles for whom; PUBLIC for everybody
   * @param using the server's SQL for which rows are there, or null
   * @param predicate the same as a predicate; null where it is beyond the language
   */
  public record Rule(
      String name,
      boolean any,
      long commands,
      List<Integer> roles,
      String using,
      String predicate) {}

  /**
   * The values of one attribute of one user.
   *
   * @param database the node of the database it is kept in, or 0
   * @param user as policies find the user on the server
   */
  public record Attribute(int database, String user, String name, List<String> values) {}

  /**
   * A lookup table.
   *
   * @param database the node of the database it is known in, or 0
   * @param table the table's node
   * @param key the column with what users are found by
   * @param keys what stands in it
   * @param value the column with what holds for them
   * @param asMade whether what policies read of it still is as it was made
   */
  public record LookupTable(
      int database,
      String name,
      int table,
      String key,
      LookupKey keys,
      String value,
      boolean asMade) {}

  /**
   * Why nothing of a guarded schema was believed.
   *
   * @param foreign whether somebody else made or changed it; else the login was not let in
   * @param why each reason, as what is the matter with which part
   */
  public record Doubt(boolean foreign, List<String> why) {}

  /**
   * A seal.
   *
   * @param on the nodes it closes, with all they hold
   * @param openTo the principals it stays open to, with all who hold them
   */
  public record Seal(String name, List<Integer> on, List<Integer> openTo) {}

  /**
   * How a table fills its columns.
   *
   * @param defaults what stands in a column where nothing is given, in the server's SQL
   * @param never the columns that nobody can give a value for: the server works them out
   * @param key the columns of the primary key
   */
  public record Fills(Map<String, String> defaults, List<String> never, List<String> key) {
    private static final Pattern PLAIN =
        Pattern.compile(
            "(DATE |TIMESTAMP |TIME )?'([^']|'')*'|-?[0-9]+([.][0-9]+)?(E-?[0-9]+)?|TRUE|FALSE"
                + "|CURRENT_DATE|CURRENT_TIMESTAMP|LOCALTIMESTAMP|CURRENT_TIME|LOCALTIME");

    /** A default that means the same wherever it stands and whoever asks; null for another. */
    public @Nullable String plainDefault(String column) {
      String value = defaults.get(column);
      return value != null && PLAIN.matcher(value).matches() ? value : null;
    }
  }

  /** With these seals. */
  public Sights sealed(List<Seal> others) {
    return new Sights(
        kept, filters, attributes, lookups, guards, doubts, List.copyOf(others), fills);
  }

  /** Whether nothing at all is kept. */
  public boolean isEmpty() {
    return kept.isEmpty()
        && filters.isEmpty()
        && attributes.isEmpty()
        && guards.isEmpty()
        && doubts.isEmpty()
        && seals.isEmpty();
  }
}
