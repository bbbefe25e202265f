package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.cli.shell.Typist;
import fiador.files.ledger.Ledger;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** New secrets: good at once, kept nowhere, and never at the mercy of a slip. */
class SecretsTest {
  @TempDir Path folder;
  private final Hands hands = new Hands();

  /** Somebody who types what was laid out for them. */
  private static final class Hands implements Typist {
    final Deque<String> typing = new ArrayDeque<>();
    final List<String> seen = new ArrayList<>();

    @Override
    public char[] secret(String prompt) {
      seen.add(prompt);
      return typing.isEmpty() ? null : typing.pop().toCharArray();
    }

    @Override
    public void show(String user, char[] secret) {
      seen.add(user + " " + new String(secret));
    }
  }

  private String url() {
    return "jdbc:hsqldb:file:" + folder.resolve("data/db") + ";shutdown=true";
  }

  @BeforeEach
  void aServerWithThreeUsers() throws Exception {
    try (Connection admin = DriverManager.getConnection(url(), "SA", "");
        var sql = admin.createStatement()) {
      for (String user : List.of("INES", "APP_IN", "APP_OUT")) {
        sql.execute("CREATE USER " + user + " PASSWORD 'old'");
      }
      sql.execute("CREATE ROLE READER");
    }
    Files.writeString(
        folder.resolve("fiador.yaml"),
        "fiador: 1\nestate: e\nservers:\n  it: {kind: hsqldb, url: '" + url() + "', login: SA}\n");
  }

  private Program secret(Typist typist, String... args) {
    List<String> all = new ArrayList<>(List.of(args));
    all.addAll(List.of("--charter", folder.toString()));
    return Program.secret(typist, all.toArray(String[]::new));
  }

  private boolean opens(String user, String secret) {
    try {
      DriverManager.getConnection(url(), user, secret).close();
      return true;
    } catch (SQLException refused) {
      return false;
    }
  }

  @Test
  void whatIsTypedTwiceIsGoodAtOnce() throws Exception {
    hands.typing.addAll(List.of("Qzxj'new", "Qzxj'new"));
    Program set = secret(hands, "ines");
    assertThat(set.code).as(set.err).isZero();
    assertThat(set.out).isEqualTo("ines: a new secret\n");
    assertThat(opens("INES", "Qzxj'new")).isTrue();
    assertThat(opens("INES", "old")).isFalse();
    assertThat(opens("APP_IN", "old")).isTrue();
    try (Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        assertThat(Files.readString(file, StandardCharsets.ISO_8859_1))
            .as(file.toString())
            .doesNotContain("Qzxj");
      }
    }
  }

  @Test
  void twoThatDifferChangeNothing() {
    hands.typing.addAll(List.of("one", "other"));
    Program set = secret(hands, "ines");
    assertThat(set.code).isEqualTo(2);
    assertThat(set.err).contains("these were not the same; nothing was changed");
    assertThat(opens("INES", "old")).isTrue();
    assertThat(secret(hands, "ines").err).contains("no secret for INES; nothing was changed");
  }

  @Test
  void oneIsMadeUpForEachAndShownOnceAtTheTerminal() {
    Program set = secret(hands, "app_*", "--generate");
    assertThat(set.code).as(set.err).isZero();
    assertThat(set.out).isEqualTo("app_in: a new secret\napp_out: a new secret\n");
    assertThat(hands.seen).hasSize(2).doesNotHaveDuplicates();
    for (String shown : hands.seen) {
      String made = shown.substring(shown.indexOf(' ') + 1);
      assertThat(made).hasSize(24);
      assertThat(set.out + set.err).doesNotContain(made);
      assertThat(opens(shown.substring(0, shown.indexOf(' ')), made)).isTrue();
    }
  }

  @Test
  void withoutATerminalNothingIsAskedOrShown() {
    assertThat(secret(null, "ines").err)
        .contains("the environment has no FIADOR_SECRET_INES; nothing was changed");
    assertThat(secret(null, "ines", "--generate").err).contains("on a terminal only");
    assertThat(opens("INES", "old")).isTrue();
  }

  @Test
  void anExpiredSecretOpensNothing() {
    Program set = secret(null, "ines", "--expire-now");
    assertThat(set.code).as(set.err).isZero();
    assertThat(set.out).contains("ines: the old secret opens nothing any more");
    assertThat(opens("INES", "old")).isFalse();
  }

  @Test
  void nobodyElseIsMeant() {
    assertThat(secret(hands, "reader").err)
        .contains("reader is a role, and only users have secrets");
    assertThat(secret(hands, "inez").err)
        .contains("there is no user or role inez on it; did you mean ines?");
    assertThat(secret(hands, "x*").err).contains("no user's name is like x*");
    assertThat(secret(hands).err).contains("name a user");
    assertThat(secret(hands, "ines", "--keep-old", "--generate").err)
        .contains("hsqldb keeps one secret of an account");
    assertThat(secret(hands, "ines", "--keep-old", "--expire-now").err).contains("--keep-old goes");
    assertThat(opens("INES", "old")).isTrue();
  }

  @Test
  void theLedgerKnowsWhoseSecretIsOld() throws Exception {
    Instant then = Instant.parse("2024-03-01T10:00:00Z");
    Files.createDirectories(folder.resolve(".fiador"));
    try (Ledger ledger = Ledger.open(folder.resolve(".fiador/ledger.db"))) {
      for (String user : List.of("INES", "APP_IN")) {
        String statement = "ALTER USER \"" + user + "\" SET PASSWORD (secret)";
        long change = ledger.changes().begins("it", "secret", "root", then, List.of(statement));
        ledger.changes().ended(change, then);
      }
      // what the server refused set nothing
      String tried = "ALTER USER \"INES\" SET PASSWORD (secret)";
      Instant now = Instant.now();
      ledger
          .changes()
          .refused(ledger.changes().begins("it", "secret", "root", now, List.of(tried)), now);
      String made = "CREATE USER \"APP_OUT\" PASSWORD (secret)";
      ledger
          .changes()
          .ended(ledger.changes().begins("it", "settle", "root", then, List.of(made)), then);
    }
    assertThat(secret(null, "app_in", "--expire-now").code).isZero();
    assertThat(Program.run("survey", "it", "--charter", folder.toString()).code).isZero();
    Program found = Program.run("findings", "old-secret", "--from", folder.toString());
    assertThat(found.out)
        .contains("old-secret, low: 2 found")
        .contains("ines has had the same secret since 2024-03-01", "app_out has had")
        .doesNotContain("app_in");
    Program changes = Program.run("history", "--charter", folder.toString());
    assertThat(changes.out).contains("secret by").doesNotContain("PASSWORD '");
  }
}
