package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Membership;
import fiador.grants.rules.PostgresqlRules;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Steps as edits of a charter's own text, which git takes and which leave all else as it was. */
class CharterPatchTest {
  private static final String BEFORE =
      """
      # who reads what
      role_patterns:
        - {each: {schema: [s, t]}, role: "{schema}_read", may: ["select on {schema}.x"]}
      roles:
        clerk:
          includes: [reader, s_read]      # may shrink
          may:
            - select, insert on s.a   # both
            - select (x, y), update (y) on s.b, s.c
            - delete on s.a with grant option
            - select on every table in u, now
        lonely:
          purpose: duty
          may:
            - select on s.a
        reader:
      """;

  @TempDir Path folder;

  private static Step revoke(String grantee, Privilege privilege, String table, String... columns) {
    On on = new On(NodeKind.TABLE, "d", List.of(table.split("\\.")));
    return new Revoke(privilege.bit(), on, List.of(columns), grantee, false, null);
  }

  private CharterPatch.Result patch(Step... steps) throws Exception {
    Files.writeString(folder.resolve(CharterReader.ROOT), "fiador: 1\nestate: e\n");
    Files.writeString(folder.resolve("roles.yaml"), BEFORE);
    Charter charter = CharterReader.read(folder, name -> null);
    return CharterPatch.of(folder, charter, PostgresqlRules.of(18), List.of(steps));
  }

  /** The file after git has applied the patch. */
  private List<String> applied(CharterPatch.Result result) throws Exception {
    Files.writeString(folder.resolve("p.patch"), result.text());
    Process git =
        new ProcessBuilder("git", "apply", "p.patch")
            .directory(folder.toFile())
            .redirectErrorStream(true)
            .start();
    String said = new String(git.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(git.waitFor()).as(said + "\n" + result.text()).isZero();
    return Files.readAllLines(folder.resolve("roles.yaml"));
  }

  private List<String> line(int number, String instead) {
    List<String> lines = new java.util.ArrayList<>(BEFORE.lines().toList());
    if (instead == null) {
      lines.remove(number - 1);
    } else {
      lines.set(number - 1, instead);
    }
    return lines;
  }

  @Test
  void aPrivilegeGoesOutOfASentenceAndItsCommentStays() throws Exception {
    CharterPatch.Result result = patch(revoke("clerk", Privilege.INSERT, "s.a"));
    assertThat(result.made()).isEqualTo(1);
    assertThat(applied(result)).isEqualTo(line(8, "      - select on s.a   # both"));
  }

  @Test
  void aSentenceOfWhichNothingStaysGoes() throws Exception {
    CharterPatch.Result result = patch(revoke("clerk", Privilege.DELETE, "s.a"));
    assertThat(applied(result)).isEqualTo(line(10, null));
  }

  @Test
  void theOnlySentenceOfARoleGoesWithTheWordBeforeIt() throws Exception {
    CharterPatch.Result result = patch(revoke("lonely", Privilege.SELECT, "s.a"));
    List<String> after = line(15, null);
    after.remove(13);
    assertThat(applied(result)).isEqualTo(after);
    assertThat(CharterReader.read(folder, name -> null).wanted().roles()).hasSize(5);
  }

  @Test
  void aSentenceAboutSeveralThingsBecomesSeveralWhereTheyDiffer() throws Exception {
    CharterPatch.Result result =
        patch(
            revoke("clerk", Privilege.SELECT, "s.b", "x"),
            revoke("clerk", Privilege.UPDATE, "s.c", "y"));
    List<String> after = line(9, "      - select (y), update (y) on s.b");
    after.add(9, "      - select (x, y) on s.c");
    assertThat(result.made()).isEqualTo(2);
    assertThat(applied(result)).isEqualTo(after);
  }

  @Test
  void whatMeansMoreThanIsToGoIsLeft() throws Exception {
    CharterPatch.Result result =
        patch(
            revoke("clerk", Privilege.SELECT, "u.z"),
            revoke("s_read", Privilege.SELECT, "s.x"),
            revoke("clerk", Privilege.SELECT, "s.b"),
            revoke("clerk", Privilege.SELECT, "s.a", "x"));
    assertThat(result.text()).isEmpty();
    assertThat(result.left()).isEqualTo(4);
  }

  @Test
  void membershipsAndSentencesOfOneFileGoTogether() throws Exception {
    CharterPatch.Result result =
        patch(
            new TakeRole("reader", "clerk", Membership.PLAIN, null, true),
            revoke("clerk", Privilege.SELECT, "s.a"));
    List<String> after = line(6, "    includes: [s_read]      # may shrink");
    after.set(7, "      - insert on s.a   # both");
    assertThat(result.made()).isEqualTo(2);
    assertThat(applied(result)).isEqualTo(after);
  }

  @Test
  void privilegesThatGoTogetherGoTogether() throws Exception {
    On on = new On(NodeKind.TABLE, "d", List.of("s", "a"));
    long both = PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT);
    CharterPatch.Result result = patch(new Revoke(both, on, List.of(), "clerk", false, null));
    assertThat(applied(result)).isEqualTo(line(8, null));
  }

  @Test
  void howAndWhenARoleIsHeldGoesWithIt() throws Exception {
    Files.writeString(folder.resolve(CharterReader.ROOT), "fiador: 1\nestate: e\n");
    Files.writeString(
        folder.resolve("roles.yaml"),
        """
        roles: {reader: {may: [select on s.a]}, writer: {}, third: {}}
        users:
          ines: {roles: [reader on request until 2027-01-31, writer, third until 2027-01-31 18:00]}
          rui:
            roles:
              - reader with admin option from 2027-01-01   # later
              - writer
        """);
    Charter charter = CharterReader.read(folder, name -> null);
    List<Step> steps =
        List.of(
            new TakeRole("reader", "ines", Membership.PLAIN, null, false),
            new TakeRole("third", "ines", Membership.PLAIN, null, false),
            new TakeRole("reader", "rui", Membership.PLAIN, null, false));
    assertThat(applied(CharterPatch.of(folder, charter, PostgresqlRules.of(18), steps)))
        .containsExactly(
            "roles: {reader: {may: [select on s.a]}, writer: {}, third: {}}",
            "users:",
            "  ines: {roles: [writer]}",
            "  rui:",
            "    roles:",
            "      - writer");
  }

  @Test
  void whatStaysOfASentenceKeepsItsTime() throws Exception {
    Files.writeString(folder.resolve(CharterReader.ROOT), "fiador: 1\nestate: e\n");
    Files.writeString(
        folder.resolve("roles.yaml"),
        """
        roles:
          clerk:
            may:
              - select, insert on s.a, s.b with grant option until 2027-01-31 18:00
        """);
    Charter charter = CharterReader.read(folder, name -> null);
    List<Step> steps = List.of(revoke("clerk", Privilege.INSERT, "s.b"));
    assertThat(applied(CharterPatch.of(folder, charter, PostgresqlRules.of(18), steps)))
        .endsWith(
            "      - select, insert on s.a with grant option until 2027-01-31 18:00",
            "      - select on s.b with grant option until 2027-01-31 18:00");
  }
}
