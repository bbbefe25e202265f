package fiador.servers;

import fiador.servers.hsqldb.HsqldbServer;
import fiador.servers.kind.Server;
import fiador.servers.mariadb.MariadbServer;
import fiador.servers.postgresql.PostgresqlServer;
import java.util.List;
import java.util.Optional;

/** The kinds of server there are. */
public final class Servers {
  private static final List<Server> ALL =
      List.of(new HsqldbServer(), new MariadbServer(), new PostgresqlServer());

  private Servers() {}

  /** The kind of that name. */
  public static Optional<Server> named(String kind) {
    return ALL.stream().filter(server -> server.kind().equals(kind)).findFirst();
  }

  /** The kind that a JDBC URL belongs to. */
  public static Optional<Server> ofUrl(String url) {
    return ALL.stream().filter(server -> url.startsWith(server.urlPrefix())).findFirst();
  }

  /** The starts of all URLs that are understood. */
  public static List<String> urlPrefixes() {
    return ALL.stream().map(Server::urlPrefix).toList();
  }
}
