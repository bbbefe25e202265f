package fiador.sweep;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.cli.Main;
import fiador.estate.NodeKind;
import fiador.grants.TinyEstate;
import fiador.grants.rules.PostgresqlRules;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The commands with the engine, as somebody uses them. */
class WholeCommandTest {
  @TempDir Path folder;

  private static String run(int expected, String... args) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    PrintStream stream = new PrintStream(out, true, StandardCharsets.UTF_8);
    int code = Main.run(stream, stream, args);
    String said = out.toString(StandardCharsets.UTF_8);
    assertThat(code).as(said).isEqualTo(expected);
    return said;
  }

  /** A server with a table that somebody reads. */
  private static TinyEstate estate(String user, String table) {
    TinyEstate tiny = new TinyEstate(PostgresqlRules.of(18));
    tiny.users(user);
    tiny.node(NodeKind.DATABASE, "d").node(NodeKind.SCHEMA, "d.s");
    tiny.node(NodeKind.TABLE, "d.s." + table, "id", "phone");
    tiny.grant(user, "connect", "d").grant(user, "usage", "d.s");
    return tiny;
  }

  @Test
  void acrossServersByPersonByLabelAndByWhatChanged() throws Exception {
    Swept swept = new Swept(folder);
    String surveys = swept.surveys.toString();
    String into = swept.into.toString();
    TinyEstate north = estate("ines.duarte", "homes");
    north.grant("ines.duarte", "select", "d.s.homes");
    swept.survey("north", north.build());
    TinyEstate south = estate("duarte_i", "leaks");
    swept.survey("branch/south", south.build());
    Path people =
        Files.writeString(
            folder.resolve("people.csv"),
            "key,name,accounts\np01,Ines Duarte,ines.duarte duarte_i\n");
    Path labels =
        Files.writeString(folder.resolve("labels.csv"), "label,object\ncontact,*.phone\n");
    String[] sweep = {
      "sweep", surveys, "--into", into, "--people", people.toString(), "--labels", labels.toString()
    };
    assertThat(run(0, sweep)).contains("2 servers worked out, 0 as before");
    assertThat(run(0, "sweep", "who", into, "--label", "contact"))
        .contains("1 account of 1 person on 1 server may select what is labelled contact")
        .contains("Ines Duarte   north   ines.duarte   select d.s.homes");
    south.grant("duarte_i", "select", "d.s.leaks", "phone");
    Files.delete(swept.surveys.resolve("branch/south.survey.jsonl"));
    swept.survey("branch/south", south.build());
    assertThat(run(0, sweep)).contains("1 server worked out, 1 as before");
    assertThat(run(0, "sweep", "who", into, "--label", "contact"))
        .contains("2 accounts of 1 person on 2 servers");
    assertThat(run(0, "sweep", "person", into, "duarte_i")).contains("2 accounts on 2 servers");
    assertThat(run(0, "sweep", "person", into, "ines duarte")).contains("2 accounts on 2 servers");
    assertThat(run(0, "sweep", "changed", into, "--since", "1970-01-01"))
        .contains("1 right changed", "opened", "duarte_i (p01)", "select d.s.leaks [phone]");
    assertThat(run(1, "sweep", "who", into, "--label", "contact", "--may", "insert"))
        .contains("nobody may insert");
  }

  @Test
  void whatIsWrongIsSaid() {
    String nowhere = folder.resolve("nowhere").toString();
    assertThat(run(2, "sweep", nowhere, "--into", folder.resolve("x").toString()))
        .contains("there is no folder " + nowhere);
    assertThat(run(2, "sweep", "who", nowhere, "--label", "x")).contains("is no sweep");
  }
}
