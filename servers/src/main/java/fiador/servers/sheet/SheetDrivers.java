package fiador.servers.sheet;

import fiador.servers.jdbc.Address;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Transport.Tls;
import fiador.servers.jdbc.Unreachable;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Driver;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Properties;
import java.util.ServiceLoader;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Opens connections with drivers that come along, or that somebody names. */
final class SheetDrivers {
  private final String kind;
  private final Set<String> parameters;
  private final List<Path> jars;

  /**
   * @param parameters those that may stand in an address
   * @param jars where the driver is, besides the class path
   */
  SheetDrivers(String kind, Set<String> parameters, List<Path> jars) {
    this.kind = kind;
    this.parameters = parameters;
    this.jars = jars;
  }

  Connection open(Login login) throws ServerException {
    Address address = Address.of(login.url());
    address.check(parameters);
    if (!address.isLocal() && login.transport().tls() != Tls.OFF) {
      throw new ServerException(
          "nobody here knows how the driver of "
              + kind
              + " protects the line to "
              + login.where()
              + ", and the secret would go over it; say tls: off if what the address says of it is"
              + " enough",
          null);
    }
    Driver driver = driver(login);
    Properties settings = new Properties();
    settings.setProperty("user", login.user());
    settings.setProperty("password", login.password() == null ? "" : login.password());
    try {
      Connection connection = driver.connect(login.url(), settings);
      if (connection == null) {
        throw new ServerException(
            "the driver of " + kind + " does not know " + login.where(), null);
      }
      return connection;
    } catch (SQLException refused) {
      String state = refused.getSQLState() == null ? "" : refused.getSQLState();
      // some servers say that somebody is not let in as they say that something may not be done
      boolean out = state.startsWith("28") || state.startsWith("42") || state.equals("08004");
      String what = out ? Unreachable.refused(login) : Unreachable.why(login, refused);
      throw new ServerException(
          "the server "
              + login.where()
              + " "
              + what
              + " ("
              + login.without(refused.getMessage())
              + ")",
          refused);
    }
  }

  private Driver driver(Login login) throws ServerException {
    for (Driver driver : drivers()) {
      if (accepts(driver, login.url())) {
        return driver;
      }
    }
    throw new ServerException(
        "there is no driver for "
            + login.where()
            + (jars.isEmpty()
                ? "; name its file: driver: FILE.jar in the charter, or --driver FILE.jar"
                : " in " + jars),
        null);
  }

  private List<Driver> drivers() throws ServerException {
    List<Driver> found = new ArrayList<>(Collections.list(DriverManager.getDrivers()));
    if (!jars.isEmpty()) {
      for (Path jar : jars) {
        if (!Files.isRegularFile(jar)) {
          throw new ServerException("there is no driver file " + jar, null);
        }
      }
      // its classes are needed as long as its connections are, so it is never closed
      ClassLoader loader =
          new URLClassLoader(
              jars.stream().map(SheetDrivers::url).toArray(URL[]::new),
              SheetDrivers.class.getClassLoader());
      ServiceLoader.load(Driver.class, loader).forEach(found::add);
    }
    return found;
  }

  private static @Nullable URL url(Path jar) {
    try {
      return jar.toUri().toURL();
    } catch (MalformedURLException impossible) {
      throw new IllegalArgumentException(impossible);
    }
  }

  private static boolean accepts(Driver driver, String url) {
    try {
      return driver.acceptsURL(url);
    } catch (SQLException refused) {
      return false;
    }
  }
}
