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
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.UnaryOperator;

/** Reads the sections of all files of a charter. */
public final class CharterReader extends Shapes {
  /** The file that makes a folder a charter. */
  public static final String ROOT = "fiador.yaml";

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

  private final List<Entry> connections = new ArrayList<>();
  private final ServerSections servers;
  private final RoleSections roles;
  private final Draft draft = new Draft();

  private CharterReader(Path folder, UnaryOperator<String> environment) {
    super(new Mistakes());
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
    return read(folder, environment, KeptCharters.ofTheUser());
  }

  /** The same, with charters that were read before. */
  static Charter read(Path folder, UnaryOperator<String> environment, KeptCharters kept)
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
    List<CharterFile> files = CharterFile.in(folder, reader.mistakes);
    KeptCharters.Entry before = kept.find(folder, files);
    Charter charter = before == null ? reader.charter(files) : reader.charter(before);
    if (!reader.mistakes.isEmpty()) {
      throw new CharterException(reader.mistakes.list());
    }
    if (before == null) {
      kept.keep(folder, files, reader.connections, charter);
    }
    return charter;
  }

  private Charter charter(List<CharterFile> files) throws IOException {
    for (CharterFile file : files) {
      if (!file.isSheet()) {
        file(file);
      }
    }
    return new CharterLinker(draft, mistakes).link();
  }

  /** How to reach its servers depends on more than its files. */
  private Charter charter(KeptCharters.Entry kept) {
    kept.connections().forEach(this::section);
    Charter charter = kept.charter();
    return new Charter(
        charter.estate(),
        Collections.unmodifiableMap(draft.servers),
        draft.ledger,
        charter.wanted(),
        charter.proofs(),
        charter.expected(),
        charter.reviewKeys());
  }

  private void file(CharterFile file) throws IOException {
    Yaml tree = YamlReader.read(file.name(), file.text(), mistakes);
    Mapping sections = tree == null ? null : mapping(tree, "the sections of a charter");
    if (sections == null) {
      return;
    }
    for (Entry entry : sections.entries()) {
      section(entry);
    }
  }

  private void section(Entry entry) {
    String name = entry.key().text();
    if (name.equals("servers") || name.equals("ledger")) {
      connections.add(entry);
    }
    switch (name) {
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
