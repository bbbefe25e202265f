package fiador.standin.driver;

import java.net.URI;
import java.net.URISyntaxException;
import java.sql.Connection;
import java.sql.Driver;
import java.sql.DriverManager;
import java.sql.DriverPropertyInfo;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.Properties;
import java.util.logging.Logger;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Connections to a stand-in: {@code jdbc:standin://HOST:PORT/}, or {@code jdbc:standins:} over TLS.
 * Each statement takes effect by itself.
 */
public final class StandInDriver implements Driver {
  private static final Pattern ADDRESS =
      Pattern.compile("jdbc:standin(s?)://([^/?;#@\\s]+:\\d{1,5})/?");

  /** Over how many servers a question came, so that no circle goes on for ever. */
  public static final String HOPS = "hops";

  /** How many bytes an answer may have; without it, any number. */
  public static final String MOST_BYTES = "mostBytes";

  static {
    try {
      DriverManager.registerDriver(new StandInDriver());
    } catch (SQLException impossible) {
      throw new ExceptionInInitializerError(impossible);
    }
  }

  @Override
  public boolean acceptsURL(String url) {
    return url.startsWith("jdbc:standin");
  }

  @Override
  public @Nullable Connection connect(String url, Properties settings) throws SQLException {
    if (!acceptsURL(url)) {
      return null;
    }
    Matcher address = ADDRESS.matcher(url);
    if (!address.matches()) {
      throw new SQLException("an address is jdbc:standin://HOST:PORT/", "08001");
    }
    String scheme = address.group(1).isEmpty() ? "http" : "https";
    try {
      URI server = new URI(scheme + "://" + address.group(2) + "/");
      return Sessions.connection(
          Remote.open(
              server,
              settings.getProperty("user", ""),
              settings.getProperty("password", ""),
              Integer.parseInt(settings.getProperty(HOPS, "0")),
              Long.parseLong(settings.getProperty(MOST_BYTES, "0"))));
    } catch (URISyntaxException odd) {
      throw new SQLException("an address is jdbc:standin://HOST:PORT/", "08001", odd);
    }
  }

  @Override
  public DriverPropertyInfo[] getPropertyInfo(String url, Properties settings) {
    return new DriverPropertyInfo[] {
      new DriverPropertyInfo("user", ""), new DriverPropertyInfo("password", "")
    };
  }

  @Override
  public int getMajorVersion() {
    return 1;
  }

  @Override
  public int getMinorVersion() {
    return 0;
  }

  @Override
  public boolean jdbcCompliant() {
    return false;
  }

  @Override
  public Logger getParentLogger() throws SQLFeatureNotSupportedException {
    throw new SQLFeatureNotSupportedException("it logs nothing");
  }
}
