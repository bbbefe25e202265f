package fiador.servers.mariadb;

import fiador.estate.Account;
import fiador.estate.AccountLimit;
import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Secret;
import fiador.grants.AccountName;
import fiador.grants.ColumnSets;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.servers.jdbc.Sql;
import java.math.BigInteger;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Reads accounts, roles, who holds which role, and what they were given on the whole server. */
final class AccountReader {
  private static final String SETTINGS = "select @@skip_name_resolve";

  private static final String PRINCIPALS =
      """
      select Host, User,
             coalesce(json_value(Priv, '$.is_role'), '0') in ('1', 'true') as is_role,
             json_value(Priv, '$.access') as access,
             json_value(Priv, '$.default_role') as default_role,
             coalesce(json_value(Priv, '$.account_locked'), '0') in ('1', 'true')
               or coalesce(json_value(Priv, '$.password_last_changed'), '') = '0' as locked,
             case when json_exists(Priv, '$.auth_or') then 'unknown'
                  when json_value(Priv, '$.plugin') = 'mysql_old_password' then 'outdated'
                  when coalesce(json_value(Priv, '$.plugin'), '') in ('', 'mysql_native_password', 'ed25519')
                   and coalesce(json_value(Priv, '$.authentication_string'), '') = '' then 'none'
                  else 'sound' end as secret,
             json_value(Priv, '$.password_last_changed') as secret_since,
             json_value(Priv, '$.max_user_connections') as connections,
             json_value(Priv, '$.max_connections') as connections_per_hour,
             json_value(Priv, '$.max_questions') as queries_per_hour,
             json_value(Priv, '$.max_updates') as updates_per_hour,
             ceil(json_value(Priv, '$.max_statement_time') * 1000) as statement_milliseconds,
             json_value(Priv, '$.ssl_type') as encrypted
        from mysql.global_priv
       order by User, Host
      """;

  private static final String MEMBERS =
      "select Host, User, Role, Admin_option from mysql.roles_mapping order by User, Host, Role";

  /**
   * What the server itself says accounts have; it brings rights written by older versions up to
   * date.
   */
  private static final String GLOBAL =
      "select GRANTEE, PRIVILEGE_TYPE, IS_GRANTABLE from information_schema.USER_PRIVILEGES";

  /** The privileges by their bit in the number that the server keeps. */
  private static final Privilege[] BITS = {
    Privilege.SELECT,
    Privilege.INSERT,
    Privilege.UPDATE,
    Privilege.DELETE,
    Privilege.CREATE,
    Privilege.DROP,
    Privilege.RELOAD,
    Privilege.SHUTDOWN,
    Privilege.PROCESS,
    Privilege.FILE,
    null,
    Privilege.REFERENCES,
    Privilege.INDEX,
    Privilege.ALTER,
    Privilege.SHOW_DATABASES,
    Privilege.SUPER,
    Privilege.CREATE_TEMPORARY_TABLES,
    Privilege.LOCK_TABLES,
    Privilege.EXECUTE,
    Privilege.REPLICATION_SLAVE,
    Privilege.BINLOG_MONITOR,
    Privilege.CREATE_VIEW,
    Privilege.SHOW_VIEW,
    Privilege.CREATE_ROUTINE,
    Privilege.ALTER_ROUTINE,
    Privilege.CREATE_USER,
    Privilege.EVENT,
    Privilege.TRIGGER,
    Privilege.CREATE_TABLESPACE,
    Privilege.DELETE_HISTORY,
    Privilege.SET_USER,
    Privilege.FEDERATED_ADMIN,
    Privilege.CONNECTION_ADMIN,
    Privilege.READ_ONLY_ADMIN,
    Privilege.REPLICATION_SLAVE_ADMIN,
    Privilege.REPLICATION_MASTER_ADMIN,
    Privilege.BINLOG_ADMIN,
    Privilege.BINLOG_REPLAY,
    Privilege.SLAVE_MONITOR,
    Privilege.SHOW_CREATE_ROUTINE
  };

  private static final int GRANT_BIT = 10;

  private final Catalog catalog;
  private final EstateBuilder estate;
  private final Map<Integer, String> defaultRole = new HashMap<>();
  private final Set<List<Integer>> given = new HashSet<>();
  private final Map<String, Integer> byWrittenGrantee = new HashMap<>();

  /** What an account has on the whole server, and whether it may grant that on. */
  private record Global(long privileges, boolean mayGrant) {
    Global and(Global other) {
      return new Global(privileges | other.privileges, mayGrant || other.mayGrant);
    }
  }

  private final Map<Integer, Global> global = new HashMap<>();

  AccountReader(Catalog catalog) {
    this.catalog = catalog;
    this.estate = catalog.estate();
  }

  void read(Connection connection) throws SQLException {
    Sql.rows(
        connection,
        SETTINGS,
        row -> {
          if (row.getBoolean(1)) {
            estate.fact(0, NodeFact.ADDRESSES_ONLY);
          }
        });
    Sql.rows(connection, PRINCIPALS, this::principal);
    Sql.rows(connection, MEMBERS, this::member);
    defaultRole.forEach(this::defaultOfOthers);
    Sql.rows(connection, GLOBAL, this::global);
    long possible = catalog.rules().privilegesOn(NodeKind.SERVER);
    int covers = 0;
    for (NodeKind kind : NodeKind.values()) {
      covers |= kind == NodeKind.SERVER ? 0 : kind.bit();
    }
    for (Map.Entry<Integer, Global> entry : global.entrySet()) {
      long privileges = entry.getValue().privileges() & possible;
      long grantable = entry.getValue().mayGrant() ? possible : 0;
      if (privileges != 0 || grantable != 0) {
        Terms terms = new Terms(privileges, grantable, covers, Terms.FOREVER);
        catalog.builder().grant(entry.getKey(), 0, terms, ColumnSets.WHOLE, None.PRINCIPAL);
      }
    }
  }

  private void principal(ResultSet row) throws SQLException {
    String user = row.getString("User");
    String host = row.getString("Host");
    if (!row.getBoolean("is_role")) {
      AccountName account = new AccountName(user, host);
      int id = estate.principal(PrincipalKind.USER, account.toString(), 0, None.NODE);
      estate.account(
          id,
          new Account(
              row.getBoolean("locked"),
              null,
              null,
              false,
              Secret.named(row.getString("secret")),
              since(row.getLong("secret_since")),
              limits(row)));
      catalog.account(account, id);
      byWrittenGrantee.put("'" + user + "'@'" + host + "'", id);
      if (row.getString("default_role") != null) {
        defaultRole.put(id, row.getString("default_role"));
      }
      return;
    }
    int id = Principals.PUBLIC;
    if (user.equals("PUBLIC")) {
      estate.fact(0, NodeFact.PUBLIC_USED);
    } else {
      id = estate.principal(PrincipalKind.ROLE, user, 0, None.NODE);
      catalog.role(user, id);
    }
    String access = row.getString("access");
    long bits = access == null ? 0 : new BigInteger(access).longValue();
    long privileges = 0;
    for (int bit = 0; bit < BITS.length; bit++) {
      boolean set = BITS[bit] != null && (bits >> bit & 1) != 0;
      privileges |= set ? BITS[bit].bit() : 0;
    }
    global.put(id, new Global(privileges, (bits >> GRANT_BIT & 1) != 0));
  }

  /** 0 is no limit; of the ways to prove oneself over TLS the first asks for the line alone. */
  private static Map<AccountLimit, Integer> limits(ResultSet row) throws SQLException {
    Map<AccountLimit, Integer> found = new EnumMap<>(AccountLimit.class);
    for (AccountLimit limit : AccountLimit.values()) {
      long value = row.getLong(limit.text());
      if (limit == AccountLimit.ENCRYPTED) {
        value = Math.min(value, AccountLimit.BY_CERTIFICATE);
      }
      if (limit == AccountLimit.CONNECTIONS && value < 0) {
        // nobody gets in at all
        found.put(limit, 0);
      } else if (value > 0) {
        found.put(limit, (int) Math.min(value, Integer.MAX_VALUE - 1));
      }
    }
    return found;
  }

  /** 0 where the server does not know, and where the secret has expired. */
  private static Instant since(long seconds) {
    return seconds <= 0 ? null : Instant.ofEpochSecond(seconds);
  }

  private void member(ResultSet row) throws SQLException {
    Integer member = catalog.grantee(row.getString("User"), row.getString("Host"));
    Integer role = catalog.grantee(row.getString("Role"), "");
    if (member == null || role == null) {
      return;
    }
    String name = row.getString("Role");
    given.add(List.of(member, role));
    // an account chooses one of its roles; what a role or PUBLIC holds comes along
    boolean account = !row.getString("Host").isEmpty();
    boolean on = !account || name.equals(defaultRole.get(member));
    catalog
        .builder()
        .member(
            member,
            role,
            Membership.of(row.getString("Admin_option").equals("Y"), on, account),
            -1);
  }

  /** The default role of an account may be one that only another account of its name holds. */
  private void defaultOfOthers(int account, String name) {
    Integer role = catalog.grantee(name, "");
    if (role != null && !given.contains(List.of(account, role))) {
      Membership how = new Membership(false, true, true, Terms.FOREVER, true);
      catalog.builder().member(account, role, how, None.PRINCIPAL);
    }
  }

  private void global(ResultSet row) throws SQLException {
    Integer account = byWrittenGrantee.get(row.getString("GRANTEE"));
    Privilege privilege = Privilege.named(row.getString("PRIVILEGE_TYPE"));
    if (account != null) {
      long bit = privilege == null || privilege == Privilege.USAGE ? 0 : privilege.bit();
      Global more = new Global(bit, row.getString("IS_GRANTABLE").equals("YES"));
      global.merge(account, more, Global::and);
    }
  }
}
