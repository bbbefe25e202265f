package fiador.changes.wanted;

import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Target;
import fiador.grants.LookupKey;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import fiador.predicates.PredicateReader.Read;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What a charter demands of rows and columns. Roles and users stand here by the names the charter
 * gives them.
 *
 * @param rows row policies
 * @param masks mask policies
 * @param attributes what is known of users, by user and attribute
 * @param lookups lookup tables
 * @param labels the things that carry a label, as dotted names, by label
 * @param seals what is closed to all but those named
 * @param decided whether the charter speaks of policies at all: else those of the server stay
 */
public record WantedSight(
    List<Rows> rows,
    List<Masks> masks,
    Map<String, Map<String, List<String>>> attributes,
    List<Lookup> lookups,
    Map<String, List<Labelled>> labels,
    List<Seal> seals,
    boolean decided) {
  /** Nothing is demanded. */
  public static final WantedSight NONE =
      new WantedSight(List.of(), List.of(), Map.of(), List.of(), Map.of(), List.of(), false);

  /**
   * A row policy.
   *
   * @param on the tables
   * @param uses columns by the names they have in the predicate
   * @param applies to whom
   * @param exempts whom it lets see all rows
   * @param predicate which rows, with columns still by name
   * @param predicateAt where the predicate stands
   * @param any whether one such policy is enough; else all must pass
   * @param bindsWriting whether only such rows may be written too
   * @param view where the view stands, on servers that need one
   */
  public record Rows(
      String name,
      List<Target> on,
      Map<String, String> uses,
      Expression applies,
      Expression exempts,
      Read predicate,
      Place predicateAt,
      boolean any,
      boolean bindsWriting,
      ViewPlace view,
      Place place) {
    /** One that is about what is seen alone. */
    public Rows(
        String name,
        List<Target> on,
        Map<String, String> uses,
        Expression applies,
        Expression exempts,
        Read predicate,
        Place predicateAt,
        boolean any,
        ViewPlace view,
        Place place) {
      this(name, on, uses, applies, exempts, predicate, predicateAt, any, false, view, place);
    }
  }

  /**
   * A mask policy.
   *
   * @param columns the columns, as dotted names
   * @param labels labels of columns it is on too
   * @param schemas the only schemas it is about; empty for all
   * @param uses columns by the names they have in the predicate
   * @param applies to whom
   * @param clearWhere in which rows the values are clear all the same, with columns still by name;
   *     null for none
   * @param clearWhereAt where that stands
   * @param byKind what they see: by {@code text}, {@code number}, {@code date}, {@code boolean} and
   *     {@code otherwise}
   * @param rank of several masks on a column the one of the lowest rank acts
   * @param view where the view stands
   */
  public record Masks(
      String name,
      List<Labelled> columns,
      List<String> labels,
      List<String> schemas,
      Map<String, String> uses,
      Expression applies,
      @Nullable Read clearWhere,
      @Nullable Place clearWhereAt,
      Map<String, Mask> byKind,
      int rank,
      ViewPlace view,
      Place place) {
    /** One that is on the values in every row. */
    public Masks(
        String name,
        List<Labelled> columns,
        List<String> labels,
        List<String> schemas,
        Expression applies,
        Map<String, Mask> byKind,
        int rank,
        ViewPlace view,
        Place place) {
      this(
          name, columns, labels, schemas, Map.of(), applies, null, null, byKind, rank, view, place);
    }
  }

  /**
   * A lookup table: a column with names or values, and one with what holds for whom they stand.
   *
   * @param keys what stands in the key column
   */
  public record Lookup(
      String name, String table, String key, LookupKey keys, String value, Place place) {}

  /**
   * A seal.
   *
   * @param on the things that are closed
   * @param openTo the roles and users they stay open to
   */
  public record Seal(String name, List<Labelled> on, List<String> openTo, Place place) {}

  /** A dotted name and where it stands. */
  public record Labelled(String name, Place place) {}
}
