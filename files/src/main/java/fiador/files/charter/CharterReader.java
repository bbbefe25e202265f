package fiador.files.charter;

import fiador.changes.wanted.Wanted.Place;
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
import java.util.List;
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

  private final Path folder;
  private final ServerSections servers;
  private final RoleSections roles;
  private final Draft draft = new Draft();

  private CharterReader(Path folder, UnaryOperator<String> environment) {
    super(new Mistakes());
    this.folder = folder;
    this.servers = new ServerSections(mistakes, draft, folder, environment);
    this.roles = new RoleSections(mistakes, draft);
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
      case "roles" -> each(entry, "roles", roles::role);
      case "role_patterns" -> sequence(entry.value(), "patterns").forEach(roles::pattern);
      case "users" -> each(entry, "users", new UserSection(mistakes, draft)::user);
      case "public" -> roles.everybody(entry);
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
}
