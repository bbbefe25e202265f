package fiador.grants;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * How one kind of server, in one version, works privileges out. A plain record of facts: nothing
 * else in the core asks which server this is.
 *
 * @param server the kind of server, as a charter names it
 * @param privileges the privileges that exist on each kind of node
 * @param columnPrivileges the privileges that can be given on columns
 * @param neverGranted privileges that only owners have, because no statement gives them
 * @param gates what must be held on containers
 * @param denials whether there are denials, which beat every grant
 * @param activation when a role given to somebody counts
 * @param ownership what an owner holds
 * @param superuserInherited whether a member of a superuser is one too, without switching
 * @param guarded privileges on guarded catalog tables that only a superuser holds
 * @param enforcesTime whether the server itself ends memberships and grants in time
 * @param later whether grants for objects still to be created exist
 * @param powers what each power but superuser opens, by kind of node
 * @param systemColumns names of columns that the server itself adds to every table
 * @param checksUnderViews whether reading a view needs, each time, that its owner (or the asker)
 *     may read what lies under it; otherwise that is looked at only when the view is made
 * @param accounts whether accounts of one name are told apart by host
 * @param ownerStandsForAsker whether a view's owner is the asker for all that lies under the view:
 *     the routines it calls, and views that read as their asker; and a routine that runs as its
 *     owner needs the owner's own right to execute it
 * @param folding what the server does to the letters of an unquoted name
 */
public record HouseRules(
    String server,
    Map<NodeKind, Long> privileges,
    long columnPrivileges,
    long neverGranted,
    List<Gate> gates,
    boolean denials,
    Activation activation,
    Ownership ownership,
    boolean superuserInherited,
    long guarded,
    boolean enforcesTime,
    boolean later,
    Map<Power, Map<NodeKind, Long>> powers,
    Set<String> systemColumns,
    boolean checksUnderViews,
    Accounts accounts,
    boolean ownerStandsForAsker,
    Folding folding) {
  /** Where the Gregorian calendar took over from the Julian one. */
  private static final Pattern SKIPPED_DAYS = Pattern.compile("'1582-10-(0[5-9]|1[0-4])");

  /** When a role given to somebody counts. */
  public enum Activation {
    /** At once or after switching, as an attribute of the member says. */
    PER_MEMBER,
    /** At once or after switching, as each membership says. */
    PER_MEMBERSHIP,
    /** At once, always. */
    ALL_ON,
    /**
     * One role at a time, with all it holds, adds to the account's own rights: the default role
     * after login, another after switching.
     */
    ONE_AT_A_TIME
  }

  /** What makes an account. */
  public enum Accounts {
    /** Its name. */
    BY_NAME,
    /**
     * Its name and the hosts it may come from. For one schema, table or routine only the row that
     * fits best counts: one for the account, one for its role, one for PUBLIC.
     */
    BY_HOST
  }

  /** What an owner holds. */
  public enum Ownership {
    /** Everything on the object itself unless taken away from it; can always grant. */
    OBJECT,
    /** Everything on all that the owned schema holds; can always grant. */
    SCHEMA,
    /** Nothing. */
    NONE
  }

  /** What a server does to the letters of an unquoted name. */
  public enum Folding {
    UPPER,
    LOWER,
    NONE
  }

  private static final long PG_TABLE =
      PrivilegeSet.of(
          Privilege.SELECT,
          Privilege.INSERT,
          Privilege.UPDATE,
          Privilege.DELETE,
          Privilege.TRUNCATE,
          Privilege.REFERENCES,
          Privilege.TRIGGER);

  private static final long COLUMN_PRIVILEGES =
      PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE, Privilege.REFERENCES);

  /** All privileges that exist on that kind of node here. */
  public long privilegesOn(NodeKind kind) {
    return privileges.getOrDefault(kind, 0L);
  }

  /**
   * Why a user or role cannot have that name here, or null if it can. A server that cuts names off
   * without a word would make another principal than the one meant.
   */
  public String refusesName(String name) {
    if (name.equals("PUBLIC")) {
      return "PUBLIC is everybody, and no name for a user or role";
    }
    int bytes = name.getBytes(java.nio.charset.StandardCharsets.UTF_8).length;
    int characters = name.codePointCount(0, name.length());
    return switch (server) {
      case "postgresql" ->
          bytes > 63 ? "postgresql keeps 63 bytes of a name, and this one has " + bytes : null;
      case "mariadb" ->
          characters > 128
              ? "mariadb keeps 128 characters of a name, and this one has " + characters
              : name.endsWith(" ")
                  ? "mariadb does not keep blanks at the end of a name"
                  : characters < name.length()
                      ? "mariadb's names hold no characters beyond the basic plane of Unicode"
                      : null;
      default ->
          characters > 128
              ? server + " keeps 128 characters of a name, and this one has " + characters
              : null;
    };
  }

  /**
   * A thing's name made of another's and an ending, short enough to be kept whole here. Where it
   * would be too long, the other name is cut and marked, so that no two become one.
   */
  public String nameWith(String name, String ending) {
    if (fits(name + ending)) {
      return name + ending;
    }
    String mark = "_" + Integer.toHexString(name.hashCode() | 0x1000_0000);
    String cut = name;
    while (!fits(cut + mark + ending)) {
      cut = cut.substring(0, cut.offsetByCodePoints(cut.length(), -1));
    }
    return cut + mark + ending;
  }

  private boolean fits(String name) {
    return switch (server) {
      case "postgresql" -> name.getBytes(java.nio.charset.StandardCharsets.UTF_8).length <= 63;
      case "mariadb" -> name.length() <= 64;
      default -> name.length() <= 128;
    };
  }

  /** Whether the server itself keeps a user from logging in after a day. */
  public boolean endsAccounts() {
    return server.equals("postgresql");
  }

  /**
   * Whether a user or role of that name, without a host, is the server's own, and no matter of any
   * charter.
   */
  public boolean isOwn(String name) {
    return switch (server) {
      // a role that is called so cannot be told apart from everybody in a statement without quotes
      case "postgresql" -> name.startsWith("pg_") || name.equals("PUBLIC");
      case "mariadb" -> name.isEmpty() || name.equals("root") || name.equals("mariadb.sys");
      case "hsqldb" ->
          Set.of("SA", "DBA", "_SYSTEM", "CREATE_SCHEMA", "CHANGE_AUTHORIZATION", "SCRIPT_OPS")
              .contains(name);
      default -> false;
    };
  }

  /**
   * Whether who manages roles may give himself any role but a superuser's, and set the secret of
   * any user but theirs.
   */
  public boolean managersTakeAnyRole() {
    return activation == Activation.PER_MEMBER;
  }

  /** Roles whose members reach the server's own files and programs, and so everything it guards. */
  public Set<String> rolesThatLeaveTheServer() {
    return server.equals("postgresql")
        ? Set.of("pg_execute_server_program", "pg_write_server_files")
        : Set.of();
  }

  /** Privileges on the whole server with which one can set any account's secret. */
  public long setsAnySecret() {
    return server.equals("mariadb") ? Privilege.CREATE_USER.bit() : 0;
  }

  /** Privileges on the whole server with which one can make routines that act as any account. */
  public long makesInAnyName() {
    return server.equals("mariadb") ? PrivilegeSet.of(Privilege.SET_USER, Privilege.SUPER) : 0;
  }

  /**
   * The role whose members can go on as any user who is no superuser, without a secret; or null.
   */
  public String roleThatTakesAnyPlace() {
    return server.equals("hsqldb") ? "CHANGE_AUTHORIZATION" : null;
  }

  /**
   * The schema in whose tables the server keeps accounts so that writing there makes them; null.
   */
  public String accountsSchema() {
    return server.equals("mariadb") ? "mysql" : null;
  }

  /**
   * Whether a grant is its grantor's: only he can take it, and what he was given cannot be taken
   * while what he gave on is there.
   */
  public boolean grantorsCount() {
    return server.equals("postgresql");
  }

  /** Whether a user or role can be known in one database only. */
  public boolean localPrincipals() {
    return !Set.of("postgresql", "mariadb", "hsqldb").contains(server);
  }

  /** Whether a user can be held like a role. */
  public boolean usersAreRoles() {
    return server.equals("postgresql");
  }

  /** Whether a change of many statements takes effect as one, with no moment in between. */
  public boolean changesInOneGo() {
    return server.equals("postgresql");
  }

  /**
   * Whether taking a privilege from columns leaves what the same grantee has on the whole, and a
   * grant on columns is there beside it.
   */
  public boolean columnsAreApart() {
    return !server.equals("hsqldb");
  }

  /** How many digits the result of arithmetic may have; more is an error while reading. */
  public int mostDigits() {
    return server.equals("mariadb") ? 65 : Integer.MAX_VALUE;
  }

  /**
   * Whether a text is a number of more digits than attributes are compared by: 35 before the point
   * and 15 behind it. Such a one would be taken for its neighbour.
   */
  public boolean isBeyondNumbers(String text) {
    return !server.equals("postgresql")
        && text.matches("[+-]?\\d*(\\.\\d*)?")
        && text.matches("[+-]?(0*[1-9]\\d{35,}.*|\\d*\\.\\d{15,}[1-9]\\d*)");
  }

  /** Whether a predicate names a day that the server does not know. */
  public boolean lacksDates(String predicate) {
    return server.equals("hsqldb") && SKIPPED_DAYS.matcher(predicate).find();
  }

  /** Whether the server itself filters the rows of tables for each user. */
  public boolean filtersRows() {
    return server.equals("postgresql");
  }

  /** Whether the server has a function that digests need. */
  public boolean digests() {
    return !server.equals("hsqldb");
  }

  /** Whether texts can be put in the order of their characters, whatever their collation. */
  public boolean ordersTexts() {
    return !server.equals("hsqldb");
  }

  /** Why no view can show a table with these columns, or null if one can. */
  public String refusesSafeView(java.util.List<String> columns) {
    boolean quotes = columns.stream().anyMatch(column -> column.indexOf('"') >= 0);
    return quotes && server.equals("hsqldb")
        ? "hsqldb makes no views of columns that have a quote in their name"
        : null;
  }

  /** All privileges that can be given on that kind of node here. */
  public long grantableOn(NodeKind kind) {
    return privilegesOn(kind) & ~neverGranted;
  }

  /** What a power other than superuser opens on that kind of node. */
  public long opened(Power power, NodeKind kind) {
    return powers.getOrDefault(power, Map.of()).getOrDefault(kind, 0L);
  }

  /** A name as the server would store it if it were written without quotes. */
  public String fold(String name) {
    return switch (folding) {
      case UPPER -> name.toUpperCase(java.util.Locale.ROOT);
      case LOWER -> name.toLowerCase(java.util.Locale.ROOT);
      case NONE -> name;
    };
  }

  /**
   * PostgreSQL. Source: chapter "Privileges" of its manual, and what it does (docs/servers.md).
   *
   * @param major its major version: inherit is a matter of the member until 15, of the membership
   *     from 16; MAINTAIN exists from 17
   */
  public static HouseRules postgresql(int major) {
    long table = major >= 17 ? PG_TABLE | Privilege.MAINTAIN.bit() : PG_TABLE;
    long sequence = PrivilegeSet.of(Privilege.USAGE, Privilege.SELECT, Privilege.UPDATE);
    Map<NodeKind, Long> kinds = new EnumMap<>(NodeKind.class);
    kinds.put(
        NodeKind.DATABASE,
        PrivilegeSet.of(Privilege.CREATE, Privilege.CONNECT, Privilege.TEMPORARY));
    kinds.put(NodeKind.SCHEMA, PrivilegeSet.of(Privilege.CREATE, Privilege.USAGE));
    kinds.put(NodeKind.TABLE, table);
    kinds.put(NodeKind.MATERIALIZED_VIEW, table);
    kinds.put(NodeKind.VIEW, table);
    kinds.put(NodeKind.SEQUENCE, sequence);
    kinds.put(NodeKind.ROUTINE, Privilege.EXECUTE.bit());
    return new HouseRules(
        "postgresql",
        Map.copyOf(kinds),
        COLUMN_PRIVILEGES,
        0,
        List.of(
            new Gate(NodeKind.DATABASE, Privilege.CONNECT, true, true),
            new Gate(NodeKind.SCHEMA, Privilege.USAGE, false, false)),
        false,
        major >= 16 ? Activation.PER_MEMBERSHIP : Activation.PER_MEMBER,
        Ownership.OBJECT,
        false,
        PrivilegeSet.of(
            Privilege.INSERT,
            Privilege.UPDATE,
            Privilege.DELETE,
            Privilege.TRUNCATE,
            Privilege.USAGE),
        false,
        true,
        Map.of(
            Power.READ_EVERYTHING,
            onRelations(Privilege.SELECT.bit(), Privilege.SELECT.bit()),
            Power.WRITE_EVERYTHING,
            onRelations(
                PrivilegeSet.of(Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE),
                Privilege.UPDATE.bit()),
            Power.MAINTAIN_EVERYTHING,
            maintained(Privilege.MAINTAIN.bit())),
        Set.of("tableoid", "cmax", "xmax", "cmin", "xmin", "ctid"),
        true,
        Accounts.BY_NAME,
        false,
        Folding.LOWER);
  }

  private static Map<NodeKind, Long> maintained(long table) {
    return Map.of(NodeKind.TABLE, table, NodeKind.MATERIALIZED_VIEW, table, NodeKind.VIEW, table);
  }

  private static Map<NodeKind, Long> onRelations(long table, long sequence) {
    Map<NodeKind, Long> kinds = new EnumMap<>(maintained(table));
    kinds.put(NodeKind.SEQUENCE, sequence);
    kinds.put(NodeKind.SCHEMA, Privilege.USAGE.bit());
    return Map.copyOf(kinds);
  }

  /** HSQLDB 2.7: no gates, all roles on, the schema's owner owns what is in it, role DBA is all. */
  public static HouseRules hsqldb() {
    long table =
        PrivilegeSet.of(
            Privilege.SELECT,
            Privilege.INSERT,
            Privilege.UPDATE,
            Privilege.DELETE,
            Privilege.REFERENCES,
            Privilege.TRIGGER);
    return new HouseRules(
        "hsqldb",
        Map.of(
            NodeKind.TABLE,
            table,
            NodeKind.VIEW,
            table,
            NodeKind.SEQUENCE,
            Privilege.USAGE.bit(),
            NodeKind.ROUTINE,
            Privilege.EXECUTE.bit()),
        PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE),
        Privilege.TRIGGER.bit(),
        List.of(),
        false,
        Activation.ALL_ON,
        Ownership.SCHEMA,
        true,
        0,
        false,
        false,
        Map.of(),
        Set.of(),
        false,
        Accounts.BY_NAME,
        false,
        Folding.UPPER);
  }

  private static final long OBJECT_PRIVILEGES =
      PrivilegeSet.of(
          Privilege.SELECT,
          Privilege.INSERT,
          Privilege.UPDATE,
          Privilege.DELETE,
          Privilege.DROP,
          Privilege.CREATE_VIEW,
          Privilege.SHOW_VIEW);

  /**
   * MariaDB. Source: chapter "Account Management" of its documentation, and what it does
   * (docs/servers.md).
   *
   * @param major its major version
   * @param minor its minor version: SHOW CREATE ROUTINE exists from 11.3
   */
  public static HouseRules mariadb(int major, int minor) {
    long sequence =
        PrivilegeSet.of(
            Privilege.SELECT, Privilege.INSERT, Privilege.CREATE, Privilege.DROP, Privilege.ALTER);
    long table =
        OBJECT_PRIVILEGES
            | PrivilegeSet.of(
                Privilege.CREATE,
                Privilege.REFERENCES,
                Privilege.INDEX,
                Privilege.ALTER,
                Privilege.TRIGGER,
                Privilege.DELETE_HISTORY);
    long routine = PrivilegeSet.of(Privilege.EXECUTE, Privilege.ALTER_ROUTINE);
    boolean showsRoutines = major > 11 || major == 11 && minor >= 3;
    routine |= showsRoutines ? Privilege.SHOW_CREATE_ROUTINE.bit() : 0;
    long schema =
        table
            | routine
            | PrivilegeSet.of(
                Privilege.CREATE_ROUTINE,
                Privilege.CREATE_TEMPORARY_TABLES,
                Privilege.LOCK_TABLES,
                Privilege.EVENT);
    long server = schema;
    for (Privilege privilege : Privilege.values()) {
      server |= privilege.compareTo(Privilege.RELOAD) >= 0 ? privilege.bit() : 0;
    }
    Map<NodeKind, Long> kinds = new EnumMap<>(NodeKind.class);
    kinds.put(NodeKind.SERVER, server);
    kinds.put(NodeKind.SCHEMA, schema);
    kinds.put(NodeKind.TABLE, table);
    kinds.put(NodeKind.VIEW, OBJECT_PRIVILEGES);
    kinds.put(NodeKind.SEQUENCE, sequence);
    kinds.put(NodeKind.ROUTINE, routine);
    return new HouseRules(
        "mariadb",
        Map.copyOf(kinds),
        COLUMN_PRIVILEGES,
        0,
        List.of(),
        false,
        Activation.ONE_AT_A_TIME,
        Ownership.NONE,
        false,
        0,
        false,
        false,
        Map.of(),
        Set.of(),
        true,
        Accounts.BY_HOST,
        true,
        Folding.NONE);
  }

  /**
   * The rules for a kind of server, or null where the kind is not known.
   *
   * @param version the server's version as it says itself, which begins with the major one
   */
  public static HouseRules of(String server, String version) {
    return switch (server) {
      case "postgresql" -> postgresql(major(version));
      case "hsqldb" -> hsqldb();
      case "mariadb" -> mariadb(major(version), minor(version));
      default -> null;
    };
  }

  /**
   * The rules of the newest version that is known, for a server nobody has looked at yet; null for
   * a kind that is not known.
   */
  public static HouseRules newest(String server) {
    return switch (server) {
      case "postgresql" -> postgresql(18);
      case "hsqldb" -> hsqldb();
      case "mariadb" -> mariadb(11, 8);
      default -> null;
    };
  }

  private static int minor(String version) {
    int dot = version.indexOf('.');
    return dot < 0 ? 0 : major(version.substring(dot + 1));
  }

  private static int major(String version) {
    int end = 0;
    while (end < version.length() && end < 4 && Character.isDigit(version.charAt(end))) {
      end++;
    }
    return end == 0 ? 0 : Integer.parseInt(version.substring(0, end));
  }
}
