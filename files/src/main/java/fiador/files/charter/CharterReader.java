package fiador.files.charter;

import fiador.changes.steps.SetPower;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Place;
import fiador.estate.AccountLimit;
import fiador.estate.Power;
import fiador.files.charter.Draft.RoleEntry;
import fiador.files.charter.Draft.UserEntry;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.files.yaml.YamlReader;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/** Reads the sections of all files of a charter. */
public final class CharterReader extends Shapes {
  /** The file that makes a folder a charter. */
  public static final String ROOT = "fiador.yaml";

  static final int LARGEST = YamlReader.LARGEST;
  static final List<String> SECTIONS =
      List.of(
          "fiador",
          "estate",
          "servers",
          "ledger",
          "governs",
          "conventions",
          "roles",
          "role_patterns",
          "users",
          "public",
          "duty_conflicts",
          "proofs",
          "review_keys",
          "waivers",
          "findings",
          "labels",
          "lookups",
          "row_policies",
          "mask_policies",
          "seals");
  private static final List<String> PURPOSES = List.of("access", "duty", "owner", "umbrella");

  private final Path folder;
  private final ServerSections servers;
  private final Draft draft = new Draft();

  private CharterReader(Path folder, UnaryOperator<String> environment) {
    super(new Mistakes());
    this.folder = folder;
    this.servers = new ServerSections(mistakes, draft, folder, environment);
  }

  /**
   * Reads a charter.
   *
   * @param environment the value of an environment variable, or null
   * @throws CharterException with all its mistakes
   * @throws IOException when a file cannot be read
   */
  public static Charter read(Path folder, UnaryOperator<String> environment)
      throws CharterException, IOException {
    CharterReader reader = new CharterReader(folder, environment);
    Path root = folder.resolve(ROOT);
    if (!Files.isRegularFile(root)) {
      Place place = new Place(root.toString(), 1, 1);
      String why =
          Files.isDirectory(folder)
              ? "the folder holds no charter: there is no such file; make one with fiador new"
              : "there is no such folder";
      reader.mistakes.add(place, why);
      throw new CharterException(reader.mistakes.list());
    }
    for (Path file : reader.files()) {
      reader.file(file);
    }
    Charter charter = new CharterLinker(reader.draft, reader.mistakes).link();
    if (!reader.mistakes.isEmpty()) {
      throw new CharterException(reader.mistakes.list());
    }
    return charter;
  }

  private List<Path> files() throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(file -> !folder.relativize(file).toString().startsWith("."))
          // a house sheet beside it is no part of it
          .filter(file -> file.toString().matches("(?s).*(?<!\\.house)\\.yaml"))
          .filter(Files::isRegularFile)
          .filter(file -> !isOfAnother(file))
          .sorted()
          .toList();
    }
  }

  /** A folder inside that has a root of its own is a charter of its own. */
  private boolean isOfAnother(Path file) {
    for (Path at = file.getParent(); at != null && !at.equals(folder); at = at.getParent()) {
      if (Files.isRegularFile(at.resolve(ROOT))) {
        return true;
      }
    }
    return false;
  }

  private void file(Path path) throws IOException {
    String name = folder.relativize(path).toString();
    Place start = new Place(name, 1, 1);
    if (Files.size(path) > LARGEST) {
      mistakes.add(start, "the file is larger than 16 MiB");
      return;
    }
    String text;
    try {
      text =
          StandardCharsets.UTF_8
              .newDecoder()
              .decode(ByteBuffer.wrap(Files.readAllBytes(path)))
              .toString();
    } catch (CharacterCodingException notUtf8) {
      mistakes.add(start, "the file is not UTF-8");
      return;
    }
    Yaml tree = YamlReader.read(name, text, mistakes);
    Mapping sections = tree == null ? null : mapping(tree, "the sections of a charter");
    if (sections == null) {
      return;
    }
    for (Entry entry : sections.entries()) {
      section(entry);
    }
  }

  private void section(Entry entry) {
    switch (entry.key().text()) {
      case "fiador" -> version(entry);
      case "estate" -> draft.estate = scalar(entry.value(), "the estate's name");
      case "servers" -> each(entry, "servers", servers::server);
      case "ledger" -> servers.ledger(entry);
      case "roles" -> each(entry, "roles", this::role);
      case "role_patterns" -> sequence(entry.value(), "patterns").forEach(this::pattern);
      case "users" -> each(entry, "users", this::user);
      case "public" -> everybody(entry);
      case "governs", "conventions", "duty_conflicts", "proofs", "review_keys" ->
          new OtherSections(mistakes, draft).read(entry);
      case "waivers", "findings" -> new ReviewSections(mistakes, draft).read(entry);
      case "labels", "lookups", "row_policies", "mask_policies", "seals" ->
          new SightSections(mistakes, draft).read(entry);
      default -> unknown(entry.key(), SECTIONS, "section");
    }
  }

  private void version(Entry entry) {
    Scalar version = scalar(entry.value(), "the charter's version");
    if (version != null && !version.text().equals("1")) {
      mistakes.add(version.place(), "found version " + version.what() + ", expected 1");
    }
    draft.heads.add(entry.key().place());
  }

  @FunctionalInterface
  private interface Reader {
    void read(Scalar name, Mapping body);
  }

  private void each(Entry section, String what, Reader reader) {
    Mapping all = mapping(section.value(), what + " by name");
    if (all != null) {
      for (Entry entry : all.entries()) {
        boolean empty = entry.value() instanceof Scalar nothing && nothing.text().isEmpty();
        Mapping body =
            empty
                ? new Mapping(List.of(), entry.value().place())
                : mapping(entry.value(), "the keys of " + entry.key().text());
        if (body != null) {
          reader.read(entry.key(), body);
        }
      }
    }
  }

  private void role(Scalar name, Mapping body) {
    RoleEntry entry =
        roleBody(
            name,
            body,
            List.of("purpose", "includes", "may", "may_not", "owns", "known_in", "was", "powers"));
    addRole(entry);
  }

  private void addRole(RoleEntry entry) {
    RoleEntry before = draft.roles.putIfAbsent(entry.name().text(), entry);
    if (before != null) {
      mistakes.add(
          entry.name().place(),
          "role "
              + entry.name().text()
              + " stands here a second time, after "
              + before.name().place());
    }
  }

  private RoleEntry roleBody(Scalar name, Mapping body, List<String> known) {
    String purpose = "";
    List<Scalar> includes = List.of();
    List<Sentence> may = new ArrayList<>();
    List<Sentence> mayNot = new ArrayList<>();
    List<Scalar> owns = List.of();
    for (Entry entry : body.entries()) {
      switch (known.contains(entry.key().text()) ? entry.key().text() : "") {
        case "purpose" -> purpose = word(entry.value(), PURPOSES, "purpose");
        case "includes" -> includes = scalars(entry.value(), "roles");
        case "may" -> may.addAll(sentences(entry));
        case "may_not" -> mayNot.addAll(sentences(entry));
        case "owns" -> owns = scalars(entry.value(), "things owned");
        case "known_in" -> knownIn(name, entry.value());
        case "was" -> was(name, entry.value());
        case "powers" -> powers(name, entry.value());
        case "each", "role" -> {
          // read by the pattern itself
        }
        default -> unknown(entry.key(), known, "key of a role");
      }
    }
    return new RoleEntry(name, purpose, includes, may, mayNot, owns);
  }

  private void knownIn(Scalar name, Yaml value) {
    Scalar database = scalar(value, "the name of a database");
    if (database != null) {
      draft.knownIn.put(name.text(), database.text());
    }
  }

  private void powers(Scalar name, Yaml value) {
    List<String> known = SetPower.SETTABLE.stream().map(Power::text).sorted().toList();
    Set<Power> powers = EnumSet.noneOf(Power.class);
    for (Scalar written : scalars(value, "powers")) {
      if (known.contains(written.text())) {
        powers.add(Power.named(written.text()));
      } else {
        unknown(written, known, "power that can be set,");
      }
    }
    draft.powers.put(name.text(), powers);
  }

  private void was(Scalar name, Yaml value) {
    Scalar before = scalar(value, "the name it had before");
    if (before != null) {
      draft.was.put(name.text(), before);
    }
  }

  private List<Sentence> sentences(Entry entry) {
    List<Sentence> found = new ArrayList<>();
    List<Scalar> texts = scalars(entry.value(), "grant sentences");
    for (int i = 0; i < texts.size(); i++) {
      boolean cutOff =
          isBesides(texts.get(i), texts.get(Math.max(0, i - 1)))
              || isBesides(texts.get(i), texts.get(Math.min(texts.size() - 1, i + 1)));
      Sentence sentence =
          cutOff
              ? SentenceReader.readPiece(texts.get(i), mistakes)
              : SentenceReader.read(texts.get(i), mistakes);
      if (sentence != null) {
        found.add(sentence);
      }
    }
    return found;
  }

  /** Whether a comma between two may have been meant to stand in a sentence. */
  private static boolean isBesides(Scalar one, Scalar other) {
    return !one.equals(other)
        && !one.quoted()
        && !other.quoted()
        && one.place().line() == other.place().line();
  }

  private void pattern(Yaml yaml) {
    Mapping body = mapping(yaml, "a pattern with each, role and may");
    if (body == null) {
      return;
    }
    Yaml each = body.get("each");
    Yaml role = body.get("role");
    if (each == null || role == null) {
      mistakes.add(body.place(), "a pattern needs \"each\" and \"role\"");
      return;
    }
    Scalar name = scalar(role, "a role's name");
    Mapping variables = mapping(each, "variables and their values, such as {schema: [a, b]}");
    if (name == null || variables == null) {
      return;
    }
    RoleEntry template =
        roleBody(
            name, body, List.of("each", "role", "purpose", "includes", "may", "may_not", "owns"));
    List<Map<String, String>> combinations = new ArrayList<>(List.of(Map.of()));
    for (Entry variable : variables.entries()) {
      List<Map<String, String>> longer = new ArrayList<>();
      for (Map<String, String> so : combinations) {
        for (Scalar value : scalars(variable.value(), "values")) {
          Map<String, String> with = new LinkedHashMap<>(so);
          with.put(variable.key().text(), value.text());
          longer.add(with);
        }
      }
      combinations = longer;
    }
    if (!combinations.isEmpty()) {
      RoleTemplate.check(template, List.copyOf(combinations.get(0).keySet()), mistakes);
    }
    combinations.forEach(values -> addRole(RoleTemplate.filled(template, values)));
  }

  private void everybody(Entry section) {
    Mapping body = mapping(section.value(), "what everybody holds and may");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      switch (entry.key().text()) {
        case "may" -> draft.everybodyMay.addAll(sentences(entry));
        case "roles" -> draft.everybodysRoles.addAll(scalars(entry.value(), "roles"));
        default -> unknown(entry.key(), List.of("roles", "may"), "key of public");
      }
    }
  }

  private void user(Scalar name, Mapping body) {
    List<String> known =
        List.of(
            "kind",
            "roles",
            "may",
            "hosts",
            "until",
            "disabled",
            "limits",
            "known_in",
            "was",
            "powers",
            "attributes");
    String kind = "person";
    List<Scalar> roles = List.of();
    List<String> hosts = List.of();
    List<Sentence> may = new ArrayList<>();
    Instant until = null;
    boolean disabled = false;
    Map<AccountLimit, Integer> limits = null;
    for (Entry entry : body.entries()) {
      switch (entry.key().text()) {
        case "kind" -> kind = word(entry.value(), List.of("person", "service"), "kind of user");
        case "roles" -> roles = scalars(entry.value(), "roles");
        case "may" -> may.addAll(sentences(entry));
        case "attributes" ->
            draft.attributes.put(
                name.text(), new SightSections(mistakes, draft).attributes(entry.value()));
        case "hosts" -> hosts = scalars(entry.value(), "hosts").stream().map(Scalar::text).toList();
        case "until" ->
            until = Moments.read(scalar(entry.value(), "a day such as 2027-03-31"), true, mistakes);
        case "known_in" -> knownIn(name, entry.value());
        case "was" -> was(name, entry.value());
        case "powers" -> powers(name, entry.value());
        case "limits" -> limits = new LimitSection(mistakes).read(entry.value());
        case "disabled" ->
            disabled = word(entry.value(), List.of("true", "false"), "yes or no").equals("true");
        default -> unknown(entry.key(), known, "key of a user");
      }
    }
    UserEntry entry =
        new UserEntry(
            name, kind, roles, may, new Wanted.LoginTerms(disabled, until, hosts, limits));
    UserEntry before = draft.users.putIfAbsent(name.text(), entry);
    if (before != null) {
      mistakes.add(
          name.place(),
          "user " + name.text() + " stands here a second time, after " + before.name().place());
    }
  }
}
