package fiador.files.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.changes.steps.AddOption;
import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.CreateRole;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.DefineLookup;
import fiador.changes.steps.Deny;
import fiador.changes.steps.DropRole;
import fiador.changes.steps.DropUser;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.GrantLater;
import fiador.changes.steps.Guard;
import fiador.changes.steps.LetIn;
import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.LimitInTime;
import fiador.changes.steps.LookupTable;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.On;
import fiador.changes.steps.Rename;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.SetPower;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeOption;
import fiador.changes.steps.TakeOver;
import fiador.changes.steps.TakeRole;
import fiador.estate.AccountLimit;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.grants.LookupKey;
import fiador.grants.Membership;
import fiador.grants.Sights;
import fiador.policies.SafeColumn;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A journal gives back just what was written, whatever kind of step, and tells equal ones apart.
 */
final class JournalTest {
  private static final Instant NOW = Instant.parse("2026-03-01T10:00:00Z");
  private static final On TABLE = new On(NodeKind.TABLE, "d", List.of("s", "t\"able"));
  private static final On SCHEMA = new On(NodeKind.SCHEMA, "d", List.of("s"));
  private static final SafeColumn ID = new SafeColumn("id", ColumnType.INTEGER);

  @TempDir Path folder;

  private static List<Step> all() {
    Membership how = Membership.of(true, false, true);
    Grant grant = new Grant(3, TABLE, List.of("a", "b"), "r", true);
    Revoke revoke = new Revoke(3, TABLE, List.of("a", "b"), "r", true, "g");
    Sights.Fills fills = new Sights.Fills(Map.of("a", "'x'"), List.of("b"), List.of("id"));
    SafeView view =
        new SafeView(
            new On(NodeKind.VIEW, "d", List.of("s", "v")), TABLE, List.of(), "", true, fills);
    LookupTable lookup = new LookupTable("areas", TABLE, ID, LookupKey.ROLE, ID);
    return List.of(
        new CreateRole("r"),
        new DropRole("r"),
        new CreateUser("u"),
        new DropUser("u"),
        new Rename("r", "r2", false),
        new LetLogIn("u", false),
        new LimitInTime("u", null, NOW),
        new LimitAccount("u", Map.of(), Map.of(AccountLimit.CONNECTIONS, 5)),
        new SetPower("u", Power.CREATE_DATABASES, true),
        new GiveRole("r", "u", how, Membership.PLAIN, true),
        new TakeRole("r", "u", how, "g", true),
        new TakeOver(grant, revoke),
        new LetIn(revoke, SCHEMA, "g"),
        new DefaultRole("u", null, "r"),
        grant,
        revoke,
        new AddOption(1, TABLE, List.of(), "r"),
        new TakeOption(1, TABLE, List.of(), "r", null),
        new GrantLater("u", SCHEMA, NodeKind.TABLE, 1, "r", false),
        new RevokeLater("u", SCHEMA, NodeKind.TABLE, 1, "r", false),
        new ChangeOwner(TABLE, "r", "u"),
        new Deny(1, TABLE, List.of("c"), "r", true),
        new Guard("d", true),
        new SetAttribute("d", "u", "area", List.of(), List.of("north")),
        new DefineLookup("d", null, lookup),
        new ShowSafely(null, view),
        new MoveTable(
            TABLE, new On(NodeKind.TABLE, "d", List.of("s", "aside")), true, view, List.of(grant)),
        new FilterRows(TABLE, List.of(ID), "", ""));
  }

  /** Every kind there is, down from one family. */
  private static Set<Class<?>> kinds(Class<?> family) {
    Set<Class<?>> found = new HashSet<>();
    for (Class<?> kind : family.getPermittedSubclasses()) {
      found.addAll(kind.isSealed() ? kinds(kind) : Set.of(kind));
    }
    return found;
  }

  @Test
  void everyKindOfStepIsReadAsItWasWritten() throws Exception {
    assertThat(all()).extracting(Object::getClass).containsAll(kinds(Step.class));
    Path file = folder.resolve("j");
    Journal.begin(file, "it", "that one", NOW, all()).close();
    Journal.Contents read = Journal.read(file);
    assertThat(read.steps()).isEqualTo(all());
    assertThat(read.server()).isEqualTo("it");
    assertThat(read.begun()).isEqualTo(NOW);
    assertThat(read.finished()).isFalse();
  }

  @Test
  void ofTwoStepsThatSayTheSameItIsKnownWhichWasDone() throws Exception {
    Path file = folder.resolve("j");
    List<Step> steps = List.of(new CreateRole("r"), new DropRole("r"), new CreateRole("r"));
    try (Journal journal = Journal.begin(file, "it", "", NOW, steps)) {
      journal.done(steps.subList(2, 3));
      assertThatThrownBy(() -> journal.done(List.of(new CreateRole("r"))))
          .isInstanceOf(IllegalArgumentException.class);
    }
    assertThat(Files.readAllLines(file)).endsWith("{\"done\":[2]}");
  }

  @Test
  void aTornLastLineIsNoDamageAndATornStepIs() throws Exception {
    Path file = folder.resolve("j");
    Journal.begin(file, "it", "", NOW, all()).close();
    Files.writeString(file, Files.readString(file) + "{\"don");
    assertThat(Journal.read(file).steps()).hasSize(all().size());
    List<String> lines = Files.readAllLines(file);
    Files.write(file, lines.subList(0, 5));
    assertThatThrownBy(() -> Journal.read(file)).hasMessageContaining("damaged");
  }
}
