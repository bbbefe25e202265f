package fiador.cli.change;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.cli.shell.Typist;
import fiador.refusal.Refusal;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayDeque;
import java.util.List;
import java.util.Queue;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Starting a stand-in, and all that keeps one from starting. */
class StandInCommandTest {
  @TempDir private Path folder;
  private final ByteArrayOutputStream out = new ByteArrayOutputStream();
  private final ByteArrayOutputStream err = new ByteArrayOutputStream();

  /** Types these, one after the other. */
  private record Typing(Queue<String> secrets) implements Typist {
    Typing(String... secrets) {
      this(new ArrayDeque<>(List.of(secrets)));
    }

    @Override
    public char[] secret(String prompt) {
      String next = secrets.poll();
      return next == null ? null : next.toCharArray();
    }

    @Override
    public void show(String user, char[] secret) {
      throw new AssertionError("nothing is shown");
    }
  }

  private StandInCommand command() {
    StandInCommand command = new StandInCommand();
    command.out = new PrintStream(out, true, StandardCharsets.UTF_8);
    command.err = new PrintStream(err, true, StandardCharsets.UTF_8);
    command.folder = folder.resolve("it");
    command.port = 0;
    command.typist = null;
    command.running = standIn -> {};
    return command;
  }

  private StandInCommand command(String house, String... typed) {
    StandInCommand command = command();
    command.house = house;
    command.typist = new Typing(typed);
    return command;
  }

  private static void works(int port, String user, String secret, String sql) {
    String url = "jdbc:standin://127.0.0.1:" + port + "/";
    try (Connection connection = DriverManager.getConnection(url, user, secret);
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    } catch (SQLException refused) {
      throw new AssertionError(refused);
    }
  }

  @Test
  void itBeginsWithASecretAndGoesOnAsItBegan() throws Exception {
    StandInCommand first = command("cascade", "one", "one");
    first.running = standIn -> works(standIn.port(), "keeper", "one", "CREATE ROLE r");
    assertThat(first.run()).isZero();
    assertThat(out.toString(StandardCharsets.UTF_8))
        .contains("listens on jdbc:standin://127.0.0.1:")
        .contains("(login keeper)")
        .doesNotContain("one");
    StandInCommand again = command();
    again.house = "cascade";
    again.running = standIn -> works(standIn.port(), "keeper", "one", "DROP ROLE r");
    assertThat(again.run()).isZero();
    assertThat(err.toString(StandardCharsets.UTF_8)).contains("it goes on as it began");
  }

  private static void fails(StandInCommand command, String why) throws Exception {
    try {
      command.run();
    } catch (Refusal refused) {
      assertThat(refused).hasMessageContaining(why);
      return;
    }
    throw new AssertionError("it began");
  }

  @Test
  void whatIsMissingIsSaid() throws Exception {
    fails(command(), "needs --house: cascade, dataset, roles-only, or a file");
    StandInCommand real = command("h2", "a", "a");
    fails(real, "h2 is the sheet of a real server");
    StandInCommand gone = command("gone.yaml", "a", "a");
    fails(gone, "there is no house sheet gone.yaml");
    StandInCommand nobody = command();
    nobody.house = "cascade";
    fails(nobody, "--password-env VAR, or a terminal");
    nobody.passwordEnv = "FIADOR_NO_SUCH_VARIABLE";
    fails(nobody, "the environment has no FIADOR_NO_SUCH_VARIABLE");
    StandInCommand mistyped = command("cascade", "a", "b");
    fails(mistyped, "these were not the same");
    StandInCommand open = command();
    open.house = "cascade";
    open.listen = "0.0.0.0";
    fails(open, "--listen needs --tls");
    assertThat(folder.resolve("it")).doesNotExist();
  }

  @Test
  void aPortThatIsTakenAndASheetThatIsNone() throws Exception {
    try (ServerSocket taken = new ServerSocket(0)) {
      StandInCommand command = command("cascade", "a", "a");
      command.port = taken.getLocalPort();
      fails(command, "is taken");
    }
    Path none = Files.writeString(folder.resolve("none.yaml"), "house: x\n");
    StandInCommand command = command();
    command.folder = folder.resolve("other");
    command.house = none.toString();
    command.typist = new Typing("a", "a");
    fails(command, "this is no house sheet");
  }

  @Test
  void theLineCanBeProtected() throws Exception {
    Path keys = folder.resolve("keys.p12");
    int made =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
                "-genkeypair",
                "-alias",
                "it",
                "-keyalg",
                "EC",
                "-storetype",
                "PKCS12",
                "-keystore",
                keys.toString(),
                "-storepass",
                "secret",
                "-dname",
                "CN=localhost")
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start()
            .waitFor();
    assertThat(made).isZero();
    StandInCommand wrong = command("cascade", "a", "a");
    wrong.tls = keys;
    // the variable that opens it is not there
    fails(wrong, "cannot be opened with what FIADOR_TLS_SECRET holds");
    StandInCommand missing = command("cascade", "a", "a");
    missing.tls = folder.resolve("gone.p12");
    fails(missing, "gone.p12 cannot be opened");
  }
}
