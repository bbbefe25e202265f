package fiador.servers.mariadb;

import fiador.changes.Step;
import fiador.estate.NodeKind;
import fiador.grants.AccountName;
import fiador.grants.SchemaPattern;
import fiador.servers.Dialect;
import fiador.servers.SightStatements;

/** MariaDB's SQL. */
final class MariadbDialect implements Dialect {
  @Override
  public String createUser(String user, char[] secret) {
    return createUser(
        user, "'" + new String(secret).replace("\\", "\\\\").replace("'", "''") + "'");
  }

  @Override
  public String createUser(String user, String secretLiteral) {
    return "CREATE USER " + principal(user) + " IDENTIFIED BY " + secretLiteral;
  }

  @Override
  public String special(Step step) {
    if (step instanceof Step.LetLogIn login) {
      return "ALTER USER "
          + principal(login.user())
          + (login.enabled() ? " ACCOUNT UNLOCK" : " ACCOUNT LOCK");
    } else if (step instanceof Step.DefaultRole role) {
      String name = role.role() == null ? "NONE" : quoted(role.role());
      return "SET DEFAULT ROLE " + name + " FOR " + principal(role.member());
    }
    throw new IllegalArgumentException("MariaDB has no statement for " + step);
  }

  /** The right to grant on is one for the place, whatever the privileges. */
  @Override
  public String revoke(String what, Step.On on, String grantee, String grantor) {
    String rights = what.startsWith("GRANT OPTION FOR ") ? "GRANT OPTION" : what;
    return Dialect.super.revoke(rights, on, grantee, grantor);
  }

  @Override
  public String withOption(String what) {
    return what + ", GRANT OPTION";
  }

  @Override
  public String on(Step.On on) {
    return switch (on.kind()) {
      case SERVER -> "*.*";
      case SCHEMA -> quoted(SchemaPattern.of(on.parts().get(0))) + ".*";
      case ROUTINE -> (on.procedure() ? "PROCEDURE " : "FUNCTION ") + path(on);
      default -> "TABLE " + path(on);
    };
  }

  private String path(Step.On on) {
    String last = on.parts().get(1);
    return quoted(on.parts().get(0))
        + "."
        + (on.kind() == NodeKind.ROUTINE ? routine(last) : quoted(last));
  }

  @Override
  public String routine(String nameAndTypes) {
    return quoted(nameAndTypes.substring(0, nameAndTypes.lastIndexOf('(')));
  }

  /** Accounts have a host behind their name, roles have none. */
  @Override
  public String principal(String name) {
    if (name.indexOf('@') < 0) {
      return quoted(name);
    }
    AccountName account = AccountName.of(name);
    return quoted(account.user()) + "@" + quoted(account.host());
  }

  @Override
  public String lock() {
    return "select get_lock('fiador settle', 0)";
  }

  @Override
  public boolean transactional() {
    return false;
  }

  @Override
  public String quoted(String name) {
    return '`' + name.replace("`", "``") + '`';
  }

  @Override
  public SightStatements policies() {
    return new MariadbSight();
  }
}
