package fiador.files.identities;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldif.LDIFException;
import com.unboundid.ldif.LDIFReader;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Reads identity lists: SCIM 2.0 users as JSON (RFC 7643: a list response, an array, or one user),
 * LDIF (RFC 2849), or CSV with the columns of docs/people.md.
 */
public final class IdentityReader {
  private static final Set<String> COLUMNS =
      Set.of("key", "name", "active", "manager", "unit", "accounts");
  private static final String ENTERPRISE =
      "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";

  private static final Pattern ELSEWHERE = Pattern.compile("^[^#:][^:]*:<");

  /** Longer than any attribute's name. */
  private static final int LONGEST_NAME = 4096;

  private static final long LARGEST = 256L << 20;

  private IdentityReader() {}

  /**
   * Reads a list.
   *
   * @throws IdentityException when it is in none of the formats, or broken
   */
  public static Identities read(Path file) throws IdentityException, IOException {
    if (Files.size(file) > LARGEST) {
      throw new IdentityException(file + " is larger than 256 MiB; that is no list of people");
    }
    String text = Files.readString(file, StandardCharsets.UTF_8).stripLeading();
    List<Identity> people;
    if (text.startsWith("{") || text.startsWith("[")) {
      people = scim(file, text);
    } else if (text.startsWith("dn:") || text.startsWith("version:")) {
      people = ldif(file, text);
    } else {
      people = csv(file, text);
    }
    if (people.isEmpty()) {
      throw new IdentityException(file + " names nobody");
    }
    return new Identities(people);
  }

  private static List<Identity> scim(Path file, String text) throws IdentityException {
    JsonNode root;
    try {
      root = new ObjectMapper().readTree(text);
    } catch (JsonProcessingException broken) {
      int line = broken.getLocation() == null ? 1 : broken.getLocation().getLineNr();
      throw new IdentityException(file + ":" + line + ": " + broken.getOriginalMessage());
    }
    JsonNode users = root.isArray() ? root : root.has("Resources") ? root.get("Resources") : null;
    List<Identity> people = new ArrayList<>();
    for (JsonNode user : users == null ? List.of(root) : users) {
      if (!user.hasNonNull("userName")) {
        throw new IdentityException(
            file + ": user " + (people.size() + 1) + " has no userName, which SCIM asks for");
      }
      String login = user.get("userName").asText();
      JsonNode more = user.path(ENTERPRISE);
      List<String> accounts = new ArrayList<>(List.of(login));
      user.path("accounts").forEach(account -> accounts.add(account.asText()));
      people.add(
          new Identity(
              user.path("id").asText(login),
              name(user, login),
              user.path("active").asBoolean(true),
              textOrNull(more.path("manager").path("value")),
              textOrNull(more.path("department")),
              accounts));
    }
    return people;
  }

  private static String name(JsonNode user, String login) {
    String shown = user.path("displayName").asText("");
    String formatted = user.path("name").path("formatted").asText("");
    return !shown.isEmpty() ? shown : !formatted.isEmpty() ? formatted : login;
  }

  private static String textOrNull(JsonNode node) {
    return node.isMissingNode() || node.isNull() ? null : node.asText();
  }

  private static List<Identity> ldif(Path file, String text) throws IdentityException, IOException {
    withoutAddresses(file, text);
    List<Identity> people = new ArrayList<>();
    try (LDIFReader reader = new LDIFReader(file.toFile())) {
      for (Entry entry = reader.readEntry(); entry != null; entry = reader.readEntry()) {
        Identity person = LdapPerson.of(entry);
        if (person != null) {
          people.add(person);
        }
      }
    } catch (LDIFException broken) {
      throw new IdentityException(
          file + ":" + broken.getLineNumber() + ": " + broken.getExceptionMessage());
    }
    return people;
  }

  /**
   * A value that stands elsewhere ({@code cn:< file:///etc/passwd}) would be fetched from there and
   * shown; whoever wrote the list has no say in what this account may read.
   */
  private static void withoutAddresses(Path file, String text) throws IdentityException {
    int number = 0;
    int begun = 0;
    String whole = "";
    for (String line : (text + "\n.").split("\r?\n", -1)) {
      number++;
      if (line.startsWith(" ")) {
        whole += whole.length() < LONGEST_NAME ? line.substring(1) : "";
        continue;
      }
      if (ELSEWHERE.matcher(whole).find()) {
        throw new IdentityException(
            file
                + ":"
                + begun
                + ": a value that stands in another file is not fetched; write it out");
      }
      whole = line;
      begun = number;
    }
  }

  private static List<Identity> csv(Path file, String text) throws IdentityException, IOException {
    String header = text.lines().findFirst().orElse("");
    List<String> columns =
        Arrays.stream(header.split(",", -1))
            .map(name -> name.strip().toLowerCase(Locale.ROOT))
            .toList();
    if (!columns.contains("accounts") || !COLUMNS.containsAll(columns)) {
      throw new IdentityException(
          file
              + ":1: expected SCIM, LDIF, or CSV whose first line names columns out of"
              + " key, name, active, manager, unit and accounts, which has to be there");
    }
    List<Identity> people = new ArrayList<>();
    CsvSchema schema = CsvSchema.emptySchema().withHeader();
    int line = 1;
    try (MappingIterator<Map<String, String>> rows =
        new CsvMapper().readerForMapOf(String.class).with(schema).readValues(text)) {
      while (rows.hasNext()) {
        Map<String, String> row = rows.next();
        line++;
        String active = row.getOrDefault("active", "yes").strip().toLowerCase(Locale.ROOT);
        if (!Set.of("yes", "no", "true", "false", "").contains(active)) {
          throw new IdentityException(
              file + ":" + line + ": active is yes or no, found \"" + active + "\"");
        }
        List<String> accounts =
            Arrays.stream(row.getOrDefault("accounts", "").split("[;\\s]+"))
                .filter(account -> !account.isBlank())
                .toList();
        String key = row.getOrDefault("key", accounts.isEmpty() ? "" : accounts.get(0));
        people.add(
            new Identity(
                key,
                row.getOrDefault("name", key),
                !Set.of("no", "false").contains(active),
                blankIsNull(row.get("manager")),
                blankIsNull(row.get("unit")),
                accounts));
      }
    } catch (JsonProcessingException broken) {
      throw new IdentityException(file + ":" + (line + 1) + ": " + broken.getOriginalMessage());
    } catch (RuntimeException broken) {
      throw new IdentityException(file + ":" + (line + 1) + ": this is no line of CSV");
    }
    return people;
  }

  private static String blankIsNull(String text) {
    return text == null || text.isBlank() ? null : text.strip();
  }
}
