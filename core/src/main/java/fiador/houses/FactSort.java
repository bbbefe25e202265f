package fiador.houses;

import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;

/** The sorts of fact that a sheet can say where to find, in the order they are read. */
public enum FactSort {
  /** Users and roles. */
  PRINCIPALS(
      List.of("name", "kind"),
      List.of("powers", "disabled", "until", "comment", "secret", "secret_since")),
  /** What principals may do by themselves, where that stands elsewhere. */
  POWERS(List.of("name", "power"), List.of()),
  /** Databases and schemas. */
  CONTAINERS(List.of("kind", "name"), List.of("database", "owner", "sealed")),
  /** The columns of tables and views. */
  COLUMNS(List.of("name", "column"), List.of("database", "schema", "type")),
  /** What lives in schemas. */
  OBJECTS(
      List.of("kind", "name"),
      List.of("database", "schema", "owner", "text", "reads_as", "arguments")),
  /** The labels that things and columns carry. */
  LABELS(List.of("label"), List.of("kind", "database", "schema", "name", "column")),
  /** Which roles are held by whom. */
  MEMBERSHIPS(List.of("member", "role"), List.of("admin", "on", "switch", "grantor", "until")),
  /** What was given. */
  GRANTS(List.of("to", "privilege"), Fields.ON_SOMETHING),
  /** What may explicitly not be done. */
  DENIALS(List.of("to", "privilege"), Fields.ON_SOMETHING),
  /** What new things come with. */
  LATER_GRANTS(
      List.of("to", "privilege", "kind"), List.of("database", "schema", "creator", "grantable")),
  /** What lies under views, where the server says so. */
  READS(
      List.of("name", "reads_name"),
      List.of("kind", "database", "schema", "reads_database", "reads_schema", "reads_column")),
  /** What is known of users for policies, a value a row. */
  ATTRIBUTES(List.of("of", "attribute", "value"), List.of()),
  /** The tables on which a rule decides on rows and values, and what was noted of it. */
  POLICIES(List.of("name"), List.of("database", "schema", "note", "as_noted")),
  /**
   * Where the server itself is reached, as host and port; by this other servers' tables lead here.
   */
  ADDRESSES(List.of("address"), List.of()),
  /** The other ends of tables whose rows another server has. */
  FOREIGN_SERVERS(List.of("name", "host", "port"), List.of("database_there", "owner")),
  /** As whom somebody goes on to another server. */
  USER_MAPPINGS(List.of("of", "server"), List.of("user", "secret")),
  /** The tables whose rows another server has. */
  FOREIGN_TABLES(
      List.of("name", "server", "name_there"), List.of("database", "schema", "schema_there"));

  private static final class Fields {
    static final List<String> ON_SOMETHING =
        List.of(
            "kind",
            "database",
            "schema",
            "name",
            "column",
            "columns_by_number",
            "grantable",
            "grantor",
            "until",
            "covers");
  }

  private final List<String> needed;
  private final List<String> possible;

  FactSort(List<String> needed, List<String> possible) {
    this.needed = needed;
    this.possible = possible;
  }

  /** Whether rights here are known without facts of this sort. */
  public boolean canBeMissing() {
    return this == COLUMNS || compareTo(READS) >= 0;
  }

  /** The words of those without which rights here are known. */
  public static List<String> optional() {
    return Stream.of(values()).filter(FactSort::canBeMissing).map(FactSort::word).toList();
  }

  /** Whether facts of this sort can be taken from a row right after those of the other. */
  boolean goesWith(FactSort other) {
    return this == other && this != PRINCIPALS
        || this == POWERS && other == PRINCIPALS
        || this == DENIALS && other == GRANTS;
  }

  /** The word a sheet uses. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The fields without which there is no such fact. */
  public List<String> needed() {
    return needed;
  }

  /** All fields it may have. */
  public List<String> fields() {
    return Stream.concat(needed.stream(), possible.stream()).toList();
  }
}
