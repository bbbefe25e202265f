package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What can go wrong says what, where and what to do, and has the right exit code. */
class MishapsTest {
  @TempDir Path temp;

  private static void isBadInput(Program program, String... messages) {
    assertThat(program.code).isEqualTo(2);
    assertThat(program.err).contains(messages);
    assertThat(program.out).isEmpty();
    assertThat(program.err).doesNotContain("\tat ");
  }

  @Test
  void anUnknownCommandOrOption() {
    isBadInput(Program.run("holding"), "there is no command \"holding\"; did you mean holdings");
    isBadInput(Program.run("holdings", "--evryone"), "--evryone", "--help");
    isBadInput(Program.run("holders"), "Missing required parameter");
    isBadInput(Program.run("trace", "a"), "name a privilege and what it is on");
  }

  @Test
  void noCharterHere() {
    isBadInput(Program.run("check", temp.toString()), "there is no such file", "fiador new");
    isBadInput(Program.run("holdings", "x", "--from", temp.toString()), "fiador.yaml");
  }

  @Test
  void aSurveyThatIsNotThereOrNotOne() throws Exception {
    isBadInput(
        Program.run("holdings", "x", "--from", temp.resolve("none.jsonl").toString()), "--from");
    Path text = Files.writeString(temp.resolve("a.txt"), "hello\n");
    isBadInput(Program.run("holdings", "x", "--from", text.toString()), "a.txt:1", "no survey");
  }

  @Test
  void noSurveyYet() throws Exception {
    Path folder = temp.resolve("c");
    assertThat(Program.run("new", folder.toString()).code).isZero();
    assertThat(Program.run("check", folder.toString()).code).isZero();
    isBadInput(
        Program.run("holdings", "x", "--from", folder.toString()),
        "no survey of main yet",
        "there is no user or role x");
    isBadInput(Program.run("new", folder.toString()), "already there");
  }

  @Test
  void aServerThatIsDown() {
    Program down =
        Program.run(
            "survey",
            "--url",
            "jdbc:postgresql://127.0.0.1:1/x",
            "--login",
            "me",
            "--to",
            temp.resolve("s").toString());
    assertThat(down.code).isEqualTo(3);
    assertThat(down.err).contains("127.0.0.1:1").contains("is it running");
    assertThat(temp.resolve("s")).doesNotExist();
  }

  @Test
  void aWrongPassword() throws Exception {
    String url = "jdbc:hsqldb:mem:mishaps";
    assertThat(
            Program.run(
                    "survey", "--url", url, "--login", "SA", "--to", temp.resolve("a").toString())
                .code)
        .isZero();
    Program refused =
        Program.run(
            "survey", "--url", url, "--login", "MALLORY", "--to", temp.resolve("s").toString());
    assertThat(refused.code).isEqualTo(3);
    assertThat(refused.err).contains("refused the login MALLORY");
    assertThat(temp.resolve("s")).doesNotExist();
  }

  @Test
  void anAddressOfNoKnownKindAndMissingSecrets() {
    isBadInput(
        Program.run("survey", "--url", "jdbc:oz:x", "--login", "a", "--to", "b"), "no known kind");
    isBadInput(
        Program.run(
            "survey",
            "--url",
            "jdbc:hsqldb:mem:x",
            "--login",
            "a",
            "--to",
            "b",
            "--password-env",
            "SURELY_NOT_SET"),
        "SURELY_NOT_SET");
  }

  @Test
  void newUsersWithoutSecretsChangeNothing() throws Exception {
    Path folder = temp.resolve("d");
    Program.run("new", folder.toString());
    Files.writeString(folder.resolve("users.yaml"), "users:\n  ines: {roles: []}\n");
    Files.writeString(
        folder.resolve("fiador.yaml"),
        "fiador: 1\nservers:\n  m: {kind: hsqldb, url: 'jdbc:hsqldb:mem:d', login: SA}\n");
    isBadInput(
        Program.run("settle", "--charter", folder.toString()),
        "FIADOR_SECRET_INES",
        "nothing was changed");
  }

  @Test
  void demandsThatCannotBeMetAreAllNamedWithTheirPlaces() throws Exception {
    Path folder = temp.resolve("e");
    Program.run("new", folder.toString());
    Files.writeString(
        folder.resolve("fiador.yaml"),
        "fiador: 1\nservers:\n  m: {kind: hsqldb, url: 'jdbc:hsqldb:mem:e', login: SA}\n");
    Files.writeString(
        folder.resolve("roles.yaml"),
        "roles:\n  r:\n    may:\n      - select on no.such\n      - select on every table in nowhere\n");
    isBadInput(
        Program.run("settle", "--charter", folder.toString()),
        "roles.yaml:4:9: there is no no.such",
        "roles.yaml:5:9: there is no nowhere",
        "2 demands cannot be met; nothing was changed");
  }

  @Test
  void helpIsThereForEveryCommand() {
    assertThat(Program.run("--help").out).contains("tour", "trace", "settle");
    for (String command :
        new String[] {"tour", "new", "check", "survey", "settle", "holdings", "holders", "trace"}) {
      Program help = Program.run(command, "--help");
      assertThat(help.code).isZero();
      assertThat(help.out).contains("Examples:");
    }
  }
}
