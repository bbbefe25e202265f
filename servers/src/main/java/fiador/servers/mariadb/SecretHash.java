package fiador.servers.mariadb;

import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Base64;
import java.util.HexFormat;
import org.mariadb.jdbc.plugin.Credential;
import org.mariadb.jdbc.plugin.authentication.standard.Ed25519PasswordPlugin;
import org.mariadb.jdbc.plugin.authentication.standard.NativePasswordPlugin;

/** What the server keeps of a secret, worked out here by the driver's own arithmetic. */
final class SecretHash {
  private static final String ED25519_IS_THERE =
      """
      select 1 from information_schema.PLUGINS
       where PLUGIN_NAME = 'ed25519' and PLUGIN_STATUS = 'ACTIVE' and PLUGIN_TYPE = 'AUTHENTICATION'
      """;

  private SecretHash() {}

  /** How an account is identified: by the safer of the two ways where the server has it. */
  static String of(Connection connection, char[] secret) throws SQLException {
    boolean[] there = new boolean[1];
    Sql.rows(connection, ED25519_IS_THERE, row -> there[0] = true);
    return there[0] ? ed25519(secret) : nativeHash(secret);
  }

  static String ed25519(char[] secret) {
    byte[] key = new Ed25519PasswordPlugin("", new byte[0], null, null).hash(credential(secret));
    return "ed25519 USING '" + Base64.getEncoder().withoutPadding().encodeToString(key) + "'";
  }

  static String nativeHash(char[] secret) {
    byte[] hash = new NativePasswordPlugin("", new byte[0]).hash(credential(secret));
    return "mysql_native_password USING '*" + HexFormat.of().withUpperCase().formatHex(hash) + "'";
  }

  private static Credential credential(char[] secret) {
    return new Credential("", new String(secret));
  }
}
