package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.files.yaml.Mistakes;
import fiador.predicates.PredicateReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.assertj.core.api.recursive.comparison.RecursiveComparisonConfiguration;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class KeptChartersTest {
  private static final KeptCharters NONE = new KeptCharters(null, "");

  @TempDir Path temporary;
  private Path charter;
  private Path cache;
  private KeptCharters kept;
  private final Map<String, String> environment = new HashMap<>();

  @BeforeEach
  void begin() throws IOException {
    charter = Files.createDirectory(temporary.resolve("charter"));
    cache = temporary.resolve("cache/fiador/charters");
    kept = keptBy("this build");
    environment.put("SECRET", "agua-de-maio");
    write(
        "fiador.yaml",
        "fiador: 1\nestate: x\nservers:\n  dw: {kind: house/derby, url: 'jdbc:derby:x', login: a, password: '${SECRET}'}\n");
    write("roles.yaml", "roles:\n  reader:\n    may: [select on s.t]\n");
  }

  private KeptCharters keptBy(String build) {
    return new KeptCharters(temporary.resolve("cache"), build);
  }

  private void write(String name, String text) throws IOException {
    Path file = charter.resolve(name);
    Files.createDirectories(file.getParent());
    Files.writeString(file, text);
  }

  private Charter read() throws Exception {
    return CharterReader.read(charter, environment::get, kept);
  }

  private Path keptFile() throws IOException {
    try (Stream<Path> files = Files.list(cache)) {
      return files.findFirst().orElseThrow();
    }
  }

  /** Whether the next command would believe what is kept. */
  private boolean isKept() throws IOException {
    return kept.find(charter, CharterFile.in(charter, new Mistakes())) != null;
  }

  /** Equal in all parts; where a part of a predicate stands is told by identity. */
  private static void assertSame(Charter one, Charter other) {
    RecursiveComparisonConfiguration deeply =
        RecursiveComparisonConfiguration.builder()
            .withStrictTypeChecking(false)
            .withEqualsForType(
                (a, b) ->
                    a.expression().equals(b.expression())
                        && a.places().values().stream()
                            .sorted()
                            .toList()
                            .equals(b.places().values().stream().sorted().toList()),
                PredicateReader.Read.class)
            .build();
    assertThat(one).usingRecursiveComparison(deeply).isEqualTo(other);
  }

  @ParameterizedTest
  @ValueSource(strings = {"aguarela", "represa"})
  void whatIsKeptIsWhatWouldBeRead(String example) throws Exception {
    charter = Path.of("../examples").resolve(example);
    Charter first = read();
    assertThat(isKept()).isTrue();
    Charter second = read();
    assertSame(second, CharterReader.read(charter, environment::get, NONE));
    assertSame(second, first);
  }

  @Test
  void anyChangeOfAnyFileCounts() throws Exception {
    write("rule.house.yaml", "anything");
    read();
    assertThat(isKept()).isTrue();
    for (String name : List.of("fiador.yaml", "roles.yaml", "rule.house.yaml")) {
      String before = Files.readString(charter.resolve(name));
      write(name, before + "#");
      assertThat(isKept()).as(name).isFalse();
      write(name, before);
      assertThat(isKept()).as(name).isTrue();
    }
    write("deep/more.yaml", "");
    assertThat(isKept()).isFalse();
    Files.delete(charter.resolve("deep/more.yaml"));
    Files.delete(charter.resolve("roles.yaml"));
    assertThat(isKept()).isFalse();
    assertThat(read().wanted().roles()).isEmpty();
  }

  @Test
  void anotherBuildReadsForItself() throws Exception {
    read();
    kept = keptBy("another build");
    assertThat(isKept()).isFalse();
  }

  @Test
  void secretsAreTakenFromTheEnvironmentEachTimeAndNotKept() throws Exception {
    assertThat(read().servers().get("dw").password()).isEqualTo("agua-de-maio");
    environment.put("SECRET", "another");
    assertThat(isKept()).isTrue();
    assertThat(read().servers().get("dw").password()).isEqualTo("another");
    environment.remove("SECRET");
    assertThatThrownBy(this::read)
        .isInstanceOfSatisfying(
            CharterException.class,
            wrong -> assertThat(wrong.mistakes().toString()).contains("fiador.yaml:4", "SECRET"));
    String all = Files.readString(keptFile(), StandardCharsets.ISO_8859_1);
    assertThat(all).contains("${SECRET}").doesNotContain("agua-de-maio");
  }

  @Test
  void oneWithMistakesIsNotKept() throws Exception {
    write("roles.yaml", "roles:\n  reader:\n    may: [select upon s.t]\n");
    assertThatThrownBy(this::read).isInstanceOf(CharterException.class);
    assertThat(cache).doesNotExist();
  }

  @Test
  void aDamagedOneIsReadAnew() throws Exception {
    read();
    Path file = keptFile();
    byte[] whole = Files.readAllBytes(file);
    for (int at = 0; at < whole.length; at++) {
      byte[] damaged = whole.clone();
      damaged[at] ^= 4;
      Files.write(file, damaged);
      assertThat(isKept()).as("byte %d", at).isFalse();
      Files.write(file, Arrays.copyOf(whole, at));
      assertThat(isKept()).as("cut at %d", at).isFalse();
    }
    read();
    assertThat(isKept()).isTrue();
  }

  @Test
  void whereNothingCanBeWrittenTheCharterIsReadAllTheSame() throws Exception {
    Files.writeString(temporary.resolve("cache"), "a file where a folder should be");
    assertThat(read().wanted().roles()).hasSize(1);
    assertThat(isKept()).isFalse();
  }

  @Test
  void nobodyElseReadsThemAndThoseNotUsedMakeRoom() throws Exception {
    for (int i = 0; i < 70; i++) {
      charter = Files.createDirectory(temporary.resolve("charter" + i));
      write("fiador.yaml", "fiador: 1\nestate: x" + i + "\n");
      read();
    }
    assertThat(isKept()).isTrue();
    try (Stream<Path> files = Files.list(cache)) {
      assertThat(files).hasSize(60);
    }
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(cache)))
        .isEqualTo("rwx------");
  }

  @Test
  void oneThatOthersMayWriteIsNotBelieved() throws Exception {
    read();
    Path file = keptFile();
    Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-rw-rw-"));
    assertThat(isKept()).isFalse();
    Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
    assertThat(isKept()).isTrue();
    Path elsewhere = Files.move(file, temporary.resolve("elsewhere"));
    Files.createSymbolicLink(file, elsewhere);
    assertThat(isKept()).isFalse();
    Files.delete(file);
    Files.move(elsewhere, file);
    Files.setPosixFilePermissions(cache, PosixFilePermissions.fromString("rwxrwxrwx"));
    assertThat(isKept()).isFalse();
  }
}
