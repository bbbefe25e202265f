package fiador.changes.adopting;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The policies of an estate as a charter writes them. Labels and seals are known to charters alone,
 * so none come back: what had a label is named.
 *
 * @param rows row policies, in the order in which they stand on tables
 * @param masks mask policies, in the order in which they are tried
 * @param attributes what is known of users, by user and attribute
 */
public record AdoptedPolicies(
    List<Rows> rows,
    List<Masks> masks,
    Map<String, Map<String, List<String>>> attributes,
    List<Lookup> lookups) {
  /** Nothing decides on rows and columns. */
  public static final AdoptedPolicies NONE =
      new AdoptedPolicies(List.of(), List.of(), Map.of(), List.of());

  /** Whether there is anything to write. */
  public boolean isEmpty() {
    return rows.isEmpty() && masks.isEmpty();
  }

  /** To whom a policy applies: roles, users and conditions. */
  public record Audience(List<String> anyOf, List<String> allOf, List<String> noneOf) {}

  /**
   * A row policy.
   *
   * @param on the tables
   * @param any whether one such policy is enough
   * @param bindsWriting whether it is about what is written too
   * @param underName whether the view stands under the table's name
   */
  public record Rows(
      String name,
      List<String> on,
      Audience audience,
      String predicate,
      boolean any,
      boolean bindsWriting,
      boolean underName) {}

  /**
   * A mask policy.
   *
   * @param on the columns
   * @param clearWhere the rows in which values are clear; null for none
   * @param byKind the masks by kind of column
   * @param rank null where no column has another mask
   */
  public record Masks(
      String name,
      List<String> on,
      Audience audience,
      @Nullable String clearWhere,
      Map<String, String> byKind,
      @Nullable Integer rank,
      boolean underName) {}

  /**
   * A lookup table.
   *
   * @param keyedBy what stands in its key column
   */
  public record Lookup(String name, String table, String key, String keyedBy, String value) {}
}
