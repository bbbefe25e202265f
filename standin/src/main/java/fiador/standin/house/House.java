package fiador.standin.house;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * How the server behaves.
 *
 * @param name that of the sheet
 * @param privileges which exist on each kind of thing
 * @param onColumns which can be given on columns
 * @param gates what is needed on containers
 * @param roles when roles count
 * @param owners what owners hold
 * @param powers what each power but an administrator's opens, by kind of thing
 * @param folding what becomes of names without quotes
 * @param facts what else is so
 */
public record House(
    String name,
    Map<String, Set<String>> privileges,
    Set<String> onColumns,
    List<Gate> gates,
    Roles roles,
    Owners owners,
    Map<String, Map<String, Set<String>>> powers,
    Folding folding,
    Set<Fact> facts) {

  /** When a role counts that somebody holds. */
  public enum Roles {
    ALL_ON,
    ONE_AT_A_TIME
  }

  /** What owning gives. */
  public enum Owners {
    OBJECT,
    SCHEMA,
    NONE
  }

  /** What becomes of a name without quotes. */
  public enum Folding {
    UPPER,
    LOWER,
    NONE;

    /** The name as it is kept. */
    public String of(String name) {
      return switch (this) {
        case UPPER -> name.toUpperCase(Locale.ROOT);
        case LOWER -> name.toLowerCase(Locale.ROOT);
        case NONE -> name;
      };
    }
  }

  /** What a sheet can say, as far as the stand-in knows how to behave so. */
  public enum Fact {
    DENIALS,
    SCHEMA_GRANTS_REACH_DOWN,
    DENIALS_STAY,
    EVERYBODY_HOLDS_ROLES,
    EVERYBODY_SWITCHES,
    GRANT_OPTIONS,
    OPTION_FOR_EVERYBODY,
    ROLES_ONLY,
    ROLES_IN_CIRCLES,
    CHECKS_UNDER_VIEWS,
    CHANGING_TAKES_SELECT,
    OWNING_ROLES_GRANT_NOTHING,
    POWERS_GRANT_ON,
    SUPERUSER_INHERITED,
    LATER_GRANTS,
    LOCKS_ACCOUNTS,
    RENAMES_USERS,
    RENAMES_ROLES,
    CHANGES_OWNERS,
    COLUMNS_APART,
    DEFAULT_ROLES,
    SETS_POWERS,
    VEILS_TABLES,
    LABELS;

    /** As a sheet writes it. */
    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }
  }

  /** Whether that is so. */
  public boolean has(Fact fact) {
    return facts.contains(fact);
  }

  /** Which privileges exist on a kind of thing. */
  public Set<String> on(String kind) {
    if (kind.equals("label")) {
      return privileges.values().stream().flatMap(Set::stream).collect(Collectors.toSet());
    }
    return privileges.getOrDefault(kind, Set.of());
  }

  /** Whether schemas live in databases. */
  public boolean databases() {
    return privileges.containsKey("database");
  }
}
