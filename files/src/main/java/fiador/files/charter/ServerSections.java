package fiador.files.charter;

import fiador.files.houses.HouseSheets;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.grants.rules.KnownHouses;
import fiador.houses.HouseSheet;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Reads how to reach the servers and the ledger. */
final class ServerSections extends Shapes {
  private static final Pattern VARIABLE = Pattern.compile("\\$\\{(\\w+)(:-([^}]*))?}");

  private static final Pattern SECRET_IN_URL =
      Pattern.compile("(?i)[?&;][^=&;]*(pass|pwd|secret|crypt_key)[^=&;]*=");

  private static final Pattern USER_IN_URL = Pattern.compile("//[^/?;@]*@");

  private final Draft draft;
  private final Path folder;
  private final UnaryOperator<String> environment;

  ServerSections(Mistakes mistakes, Draft draft, Path folder, UnaryOperator<String> environment) {
    super(mistakes);
    this.draft = draft;
    this.folder = folder;
    this.environment = environment;
  }

  void server(Scalar name, Mapping body) {
    List<String> known =
        List.of(
            "kind",
            "url",
            "login",
            "password",
            "keeper",
            "tls",
            "tls_authority",
            "extracts",
            "driver",
            "connect_seconds",
            "statement_seconds",
            "lock_seconds");
    Map<String, Scalar> values = texts(body, known, "key of a server");
    boolean fromFiles = values.containsKey("extracts");
    for (String needed : fromFiles ? List.of("kind") : List.of("kind", "url", "login")) {
      if (!values.containsKey(needed)) {
        mistakes.add(name.place(), "server " + name.text() + " has no \"" + needed + "\"");
      }
    }
    Scalar kind = values.get("kind");
    HouseSheet house = kind == null ? null : house(kind);
    if (fromFiles && kind != null && !HouseSheet.describes(kind.text())) {
      mistakes.add(
          values.get("extracts").place(),
          "extracts are read as a house sheet says, and " + kind.text() + " is a kind without one");
    }
    String extracts = filled(values.get("extracts"));
    String driver = filled(values.get("driver"));
    draft.servers.put(
        name.text(),
        new Charter.ServerEntry(
            name.text(),
            kind == null ? "" : kind.text(),
            house,
            underFolder(filled(values.get("url"))),
            filled(values.get("login")),
            secret(values.get("password")),
            line(values),
            filled(values.get("keeper")),
            extracts.isEmpty() ? "" : folder.resolve(extracts).toString(),
            driver.isEmpty()
                ? List.of()
                : Stream.of(driver.split(",", -1))
                    .map(file -> folder.resolve(file.strip()).toString())
                    .toList(),
            name.place()));
    withoutSecret(values.get("url"));
  }

  /** What is known of the kind, where a sheet describes it. */
  private HouseSheet house(Scalar kind) {
    List<String> kinds = KnownHouses.kinds();
    if (kinds.contains(kind.text())) {
      return null;
    } else if (!HouseSheet.describes(kind.text())) {
      unknown(
          kind,
          Stream.concat(kinds.stream(), Stream.of(HouseSheet.PREFIX + "NAME")).toList(),
          "kind of server");
      return null;
    }
    try {
      String name = kind.text().substring(HouseSheet.PREFIX.length());
      return HouseSheets.find(folder, name, mistakes, kind.place());
    } catch (IOException unreadable) {
      mistakes.add(kind.place(), "its house sheet cannot be read: " + unreadable.getMessage());
      return null;
    }
  }

  private Charter.Line line(Map<String, Scalar> values) {
    Scalar tls = values.get("tls");
    if (tls != null && !Charter.Line.TLS.contains(tls.text())) {
      unknown(tls, Charter.Line.TLS, "way to protect a connection");
    }
    String authority = filled(values.get("tls_authority"));
    return new Charter.Line(
        tls == null ? "" : tls.text(),
        authority.isEmpty() ? "" : folder.resolve(authority).toString(),
        seconds(values.get("connect_seconds")),
        seconds(values.get("statement_seconds")),
        seconds(values.get("lock_seconds")));
  }

  private int seconds(Scalar scalar) {
    if (scalar == null) {
      return 0;
    }
    if (!scalar.text().matches("[1-9]\\d{0,5}")) {
      mistakes.add(scalar.place(), "expected a number of seconds from 1 to 999999");
      return 0;
    }
    return Integer.parseInt(scalar.text());
  }

  /** A charter is shared and kept, so that what stands in it is no secret any more. */
  private String secret(Scalar scalar) {
    if (scalar != null) {
      String rest = VARIABLE.matcher(scalar.text()).replaceAll("$3");
      if (!rest.isEmpty()) {
        mistakes.add(
            scalar.place(),
            "a charter holds no secret; write ${NAME} and put the secret into the environment");
        return "";
      }
    }
    return filled(scalar);
  }

  private void withoutSecret(Scalar url) {
    boolean secret =
        url != null
            && (SECRET_IN_URL.matcher(url.text()).find() || USER_IN_URL.matcher(url.text()).find());
    if (secret) {
      mistakes.add(
          url.place(),
          "the address has a secret in it; write login: and password: ${NAME} instead");
    }
  }

  private Map<String, Scalar> texts(Mapping body, List<String> known, String what) {
    Map<String, Scalar> values = new LinkedHashMap<>();
    for (Entry entry : body.entries()) {
      if (!known.contains(entry.key().text())) {
        unknown(entry.key(), known, what);
      } else if (entry.value() instanceof Scalar scalar) {
        values.put(entry.key().text(), scalar);
      } else {
        scalar(entry.value(), "a text");
      }
    }
    return values;
  }

  /** A file, or a PostgreSQL with its url, login and password. */
  void ledger(Entry section) {
    if (section.value() instanceof Scalar file) {
      draft.ledger = new Charter.LedgerEntry(filled(file), "", "");
      if (file.text().isBlank()) {
        mistakes.add(file.place(), "expected a file, none, or url, login and password");
      }
      return;
    }
    Mapping body = mapping(section.value(), "a file, or url, login and password");
    if (body != null) {
      List<String> known = List.of("url", "login", "password");
      Map<String, Scalar> values = texts(body, known, "key of the ledger");
      for (String needed : List.of("url", "login")) {
        if (!values.containsKey(needed)) {
          mistakes.add(section.key().place(), "the ledger has no \"" + needed + "\"");
        }
      }
      draft.ledger =
          new Charter.LedgerEntry(
              filled(values.get("url")),
              filled(values.get("login")),
              secret(values.get("password")));
      withoutSecret(values.get("url"));
    }
  }

  /**
   * An embedded database's relative file belongs to the charter, wherever the program was started.
   */
  private String underFolder(String url) {
    String prefix = "jdbc:hsqldb:file:";
    if (!url.startsWith(prefix) || Path.of(url.substring(prefix.length())).isAbsolute()) {
      return url;
    }
    return prefix + folder.resolve(url.substring(prefix.length()));
  }

  /** The text with {@code ${NAME}} and {@code ${NAME:-otherwise}} replaced. */
  private String filled(Scalar scalar) {
    if (scalar == null) {
      return "";
    }
    Matcher matcher = VARIABLE.matcher(scalar.text());
    StringBuilder filled = new StringBuilder();
    while (matcher.find()) {
      String value = environment.apply(matcher.group(1));
      if (value == null && matcher.group(2) == null) {
        mistakes.add(
            scalar.at(matcher.start()),
            "the environment has no "
                + matcher.group(1)
                + "; set it, or write ${"
                + matcher.group(1)
                + ":-otherwise}");
      }
      String otherwise = matcher.group(3) == null ? "" : matcher.group(3);
      matcher.appendReplacement(
          filled, Matcher.quoteReplacement(value == null ? otherwise : value));
    }
    return matcher.appendTail(filled).toString();
  }
}
