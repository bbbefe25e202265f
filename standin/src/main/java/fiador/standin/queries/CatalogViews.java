package fiador.standin.queries;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** What the catalog tells, and under which names; all of it is text. */
public final class CatalogViews {
  /** The columns of each. */
  public static final Map<String, List<String>> ALL = new TreeMap<>();

  static {
    List<String> right =
        List.of(
            "decision",
            "principal_name",
            "permission",
            "object_type",
            "database_name",
            "schema_name",
            "object_name",
            "column_name",
            "may_pass_on",
            "given_by");
    ALL.put(
        "principals",
        List.of(
            "principal_name",
            "principal_type",
            "locked",
            "administrator",
            "keeps_accounts",
            "remark"));
    ALL.put("powers", List.of("principal_name", "power"));
    ALL.put("role_members", List.of("role_name", "member_name", "may_pass_on", "at_login"));
    ALL.put("databases", List.of("database_name", "owner_name", "sealed"));
    ALL.put("schemas", List.of("database_name", "schema_name", "owner_name", "sealed"));
    ALL.put(
        "objects",
        List.of(
            "database_name",
            "schema_name",
            "object_name",
            "object_type",
            "owner_name",
            "reads_as",
            "view_text"));
    ALL.put(
        "columns",
        List.of("database_name", "schema_name", "object_name", "column_name", "data_type"));
    ALL.put(
        "labels",
        List.of(
            "label_name",
            "object_type",
            "database_name",
            "schema_name",
            "object_name",
            "column_name"));
    ALL.put("permissions", right);
    ALL.put(
        "later_permissions",
        List.of(
            "principal_name",
            "permission",
            "object_type",
            "database_name",
            "schema_name",
            "may_pass_on"));
    ALL.put("attributes", List.of("principal_name", "attribute", "attribute_value"));
    ALL.put(
        "veils",
        List.of(
            "database_name",
            "schema_name",
            "object_name",
            "rows_shown",
            "masked",
            "note",
            "as_noted"));
    ALL.put("places", List.of("place_name", "host", "port", "database_name"));
    ALL.put("ways_in", List.of("place_name", "principal_name", "enters_as"));
    ALL.put(
        "external_tables",
        List.of(
            "database_name",
            "schema_name",
            "object_name",
            "place_name",
            "schema_there",
            "object_there"));
    ALL.put(
        "uses",
        List.of(
            "used_at",
            "principal_name",
            "acting_as",
            "outcome",
            "permission",
            "object_type",
            "database_name",
            "schema_name",
            "object_name"));
  }

  private CatalogViews() {}
}
