package fiador.servers.jdbc;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A JDBC URL, looked at before any driver sees it. Drivers take parameters that load classes, write
 * logs or read files; and a secret in an address would end up in messages.
 */
public final class Address {
  /** What stands for a secret wherever an address is shown. */
  public static final String HIDDEN = "(hidden)";

  private static final Pattern SECRET =
      Pattern.compile("(?i)([?&;][^=&;]*(?:pass|pwd|secret|crypt_key)[^=&;]*=)[^&;]*");

  private static final Pattern BEFORE_HOST = Pattern.compile("//[^/?;@]*@");
  private static final Pattern PARAMETER = Pattern.compile("[?&;]([^=&;]+)(?:=([^&;]*))?");

  /** The path of an embedded database may hold anything but this. */
  private static final Pattern HSQLDB_PARAMETER = Pattern.compile(";([^=;]+)(?:=([^;]*))?");

  private static final Pattern HOSTS = Pattern.compile("//([^/?;]*)");
  private static final Pattern HSQLDB_CALL = Pattern.compile("jdbc:hsqldb:(?:hsql|http)s?:.*");
  private static final String HSQLDB = "jdbc:hsqldb:";

  private final String url;

  private Address(String url) {
    this.url = url;
  }

  /** That address. */
  public static Address of(String url) {
    return new Address(url);
  }

  /** The address as it may be shown: no secret in it. */
  public String shown() {
    String hidden = SECRET.matcher(url).replaceAll("$1" + Matcher.quoteReplacement(HIDDEN));
    return BEFORE_HOST.matcher(hidden).replaceAll("//" + Matcher.quoteReplacement(HIDDEN) + "@");
  }

  /** Whether there is a secret in it. */
  public boolean holdsSecret() {
    return !shown().equals(url);
  }

  /** The names of the parameters, as they are written. */
  public List<String> parameters() {
    List<String> names = new ArrayList<>();
    boolean hsqldb = url.startsWith(HSQLDB);
    Matcher parameter = (hsqldb ? HSQLDB_PARAMETER : PARAMETER).matcher(url);
    while (parameter.find()) {
      names.add(parameter.group(1));
    }
    return names;
  }

  /** Whether one of these parameters is given, whatever its case. */
  public boolean says(String... names) {
    Set<String> wanted = Set.of(names);
    return parameters().stream().anyMatch(name -> wanted.contains(name.toLowerCase(Locale.ROOT)));
  }

  /**
   * Whether all hosts it names are this machine; without a host it is a file, or this machine too.
   */
  public boolean isLocal() {
    Matcher hosts = HOSTS.matcher(url);
    if (url.startsWith(HSQLDB) && !isRemoteCall() || !hosts.find()) {
      return true;
    }
    for (String host : hosts.group(1).split(",", 0)) {
      String name = host.replaceFirst(":\\d*$", "");
      boolean local =
          name.isEmpty()
              || name.equalsIgnoreCase("localhost")
              || name.matches("127\\.\\d{1,3}\\.\\d{1,3}\\.\\d{1,3}")
              || name.equals("[::1]")
              || name.equals("::1");
      if (!local) {
        return false;
      }
    }
    return true;
  }

  /**
   * The hosts it names, each as {@code host:port} in lower case; none where it is a file.
   *
   * @param usual the port where none is given
   */
  public List<String> reached(int usual) {
    Matcher hosts = HOSTS.matcher(url);
    if (url.startsWith(HSQLDB) && !isRemoteCall() || !hosts.find()) {
      return List.of();
    }
    List<String> found = new ArrayList<>();
    for (String host : hosts.group(1).toLowerCase(Locale.ROOT).split(",", 0)) {
      boolean port =
          host.matches(".*:\\d+")
              && (host.contains("]") || host.indexOf(':') == host.lastIndexOf(':'));
      String name =
          (port ? host.substring(0, host.lastIndexOf(':')) : host).replaceAll("[\\[\\]]", "");
      found.add(
          (name.isEmpty() ? "localhost" : name)
              + ":"
              + (port ? host.substring(host.lastIndexOf(':') + 1) : usual));
    }
    return found;
  }

  /** Whether an HSQLDB is reached over a line, and not opened here. */
  public boolean isRemoteCall() {
    return HSQLDB_CALL.matcher(url).matches();
  }

  /**
   * Refuses what must not stand in an address.
   *
   * @param allowed the parameters that are harmless, in lower case
   * @throws ServerException naming what is refused, and what to do instead
   */
  public void check(Set<String> allowed) throws ServerException {
    if (holdsSecret()) {
      throw new ServerException(
          "there is a secret in the address "
              + shown()
              + "; take it out and give it by the environment: password: ${NAME} in a charter,"
              + " --password-env NAME on the command line",
          null);
    }
    for (String name : parameters()) {
      if (!allowed.contains(name.toLowerCase(Locale.ROOT))) {
        throw new ServerException(
            "the address "
                + shown()
                + " has the parameter "
                + name
                + ", which is not allowed; allowed are "
                + String.join(", ", allowed.stream().sorted().toList()),
            null);
      }
    }
  }
}
