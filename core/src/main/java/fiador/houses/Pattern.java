package fiador.houses;

import java.util.List;
import java.util.Locale;

/** The statements that a sheet can have, and what may stand in each between braces. */
public enum Pattern {
  CREATE_ROLE("role"),
  DROP_ROLE("role"),
  CREATE_USER("user", "secret"),
  CREATE_USER_WITHOUT_SECRET("user"),
  DROP_USER("user"),
  SET_SECRET("user", "secret"),
  RENAME_USER("user", "name"),
  RENAME_ROLE("role", "name"),
  LET_LOG_IN("user"),
  KEEP_OUT("user"),
  GIVE_ROLE("role", "member"),
  GIVE_ROLE_WITH_ADMIN("role", "member"),
  TAKE_ADMIN("role", "member"),
  TAKE_ROLE("role", "member"),
  SET_DEFAULT_ROLE("user", "role"),
  SET_NO_DEFAULT_ROLE("user"),
  GRANT("privileges", "on", "grantee"),
  GRANT_WITH_OPTION("privileges", "on", "grantee"),
  REVOKE("privileges", "on", "grantee"),
  REVOKE_OPTION("privileges", "on", "grantee"),
  DENY("privileges", "on", "grantee"),
  LIFT_DENIAL("privileges", "on", "grantee"),
  CHANGE_OWNER("on", "owner"),
  SWITCH_TO_ROLE("role"),
  SWITCH_TO_NO_ROLE,
  BECOME_USER("user"),
  /** Says whether a statement would be allowed, and carries nothing out. */
  ASK_RIGHTS("statement"),
  SET_ATTRIBUTE("user", "attribute", "values"),
  CLEAR_ATTRIBUTE("user", "attribute"),
  FILTER_ROWS("on", "rows"),
  SHOW_ROWS("on"),
  MASK_COLUMN("on", "column", "value"),
  UNMASK_COLUMN("on", "column"),
  /** Notes the policies that a table's rule was made from; an empty text for none. */
  NOTE_POLICIES("on", "policies"),
  /** In predicates: a query for the name of who asks. */
  ASKER_NAME,
  /** In predicates: a table with {@code attribute} and {@code value} of who asks. */
  ASKER_ATTRIBUTES,
  /** In predicates: a query for the names of the roles that who asks holds. */
  ASKER_ROLES;

  private final List<String> places;

  Pattern(String... places) {
    this.places = List.of(places);
  }

  /** The word a sheet uses. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The name of a place that may stand in quotes: {@code {'user'}}. */
  public static String bare(String place) {
    return place.replaceAll("^'?\"?|\"?'?$", "");
  }

  /** What stands between braces in it; each at least once. */
  public List<String> places() {
    return places;
  }
}
