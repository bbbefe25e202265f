package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.outcome.Done;
import fiador.changes.outcome.Outcome;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Gone;
import fiador.changes.steps.Rename;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.LoginTerms;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Principal;
import fiador.estate.Account;
import fiador.estate.NodeKind;
import fiador.estate.Secret;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.MariadbRules;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Who is called otherwise keeps everything, and nothing else is done about it. */
class RenamingTest {
  private static final Place HERE = new Place("roles.yaml", 4, 9);
  private final List<Wanted.Member> members = new ArrayList<>();

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines")
          .roles("reader")
          .owned(NodeKind.SCHEMA, "d.s", "reader")
          .member("ines", "reader")
          .grant("reader", "usage", "d.s");

  private static Principal called(String name, String was, String... hosts) {
    return new Principal(name, new LoginTerms(false, null, List.of(hosts)), null, was, HERE);
  }

  private Gap gap(Access access, List<Principal> roles, List<Principal> users, String... logins) {
    Wanted wanted = new Wanted(roles, users, members, List.of());
    return Gap.between(access, wanted, false, Set.of(logins), Clock.systemUTC());
  }

  @Test
  void bothGetTheirNewNamesAndNothingElseIsDone() {
    members.add(new Wanted.Member("ines_d", "viewer", HERE));
    Gap gap =
        gap(tiny.build(), List.of(called("viewer", "reader")), List.of(called("ines_d", "ines")));
    assertThat(gap.plan().steps())
        .containsExactly(new Rename("reader", "viewer", false), new Rename("ines", "ines_d", true));
    assertThat(gap.effects()).isEmpty();
  }

  @Test
  void whatElseIsWantedIsAboutTheNewNames() {
    tiny.roles("extra");
    members.add(new Wanted.Member("ines_d", "extra", HERE));
    members.add(new Wanted.Member("ines_d", "viewer", HERE));
    Gap gap =
        gap(
            tiny.build(),
            List.of(called("viewer", "reader"), called("extra", null)),
            List.of(called("ines_d", "ines")));
    assertThat(gap.plan().steps())
        .containsExactly(
            new Rename("reader", "viewer", false),
            new Rename("ines", "ines_d", true),
            new GiveRole("extra", "ines_d", Membership.PLAIN, null, true));
  }

  @Test
  void onceItIsDoneTheOldNameSaysNothing() {
    Rename step = new Rename("reader", "viewer", false);
    Access after = Outcome.of(tiny.build(), List.of(step)).after();
    assertThat(gap(after, List.of(called("viewer", "reader")), List.of()).plan().steps()).isEmpty();
    assertThat(new Done(tiny.build()).isDone(step)).isFalse();
    assertThat(new Done(after).isDone(step)).isTrue();
    assertThat(new Done(after).undo(List.of(step)))
        .containsExactly(new Rename("viewer", "reader", false));
  }

  @Test
  void afterAStopTheRestFindsTheNewName() {
    List<Step> steps =
        List.of(
            new Rename("reader", "viewer", false),
            new GiveRole("viewer", "ines", Membership.PLAIN, null, true));
    assertThat(Gone.among(steps, tiny.build())).isEmpty();
    tiny.roles("viewer");
    Map<Step, String> gone =
        Gone.among(List.of(new Rename("nobody", "viewer", false)), tiny.build());
    assertThat(gone.values()).containsExactly("there is no user or role nobody any more");
  }

  @Test
  void whereBothAreThereNothingIsRenamed() {
    tiny.roles("viewer");
    Gap gap = gap(tiny.build(), List.of(called("viewer", "reader")), List.of());
    assertThat(gap.plan().steps()).isEmpty();
    assertThat(gap.plan().notes())
        .contains("there are both viewer and reader, which it was called: nothing is renamed");
  }

  @Test
  void theCharterDoesNotRenameItsOwnLogin() {
    Gap gap = gap(tiny.build(), List.of(), List.of(called("ines_d", "ines")), "ines");
    assertThat(gap.plan().problems())
        .extracting(Problem::message)
        .containsExactly("ines is a login of the charter itself: rename it by hand");
  }

  @Test
  void aSecretThatWouldBeLostIsSaid() {
    tiny.account("ines", new Account(false, null, null, false, Secret.OUTDATED));
    Gap gap = gap(tiny.build(), List.of(), List.of(called("ines_d", "ines")));
    assertThat(gap.plan().notes()).anyMatch(note -> note.startsWith("the secret of ines is kept"));
  }

  @Test
  void onMariadbUsersAreRenamedHostByHostAndRolesAreNot() {
    TinyEstate mariadb =
        new TinyEstate(MariadbRules.of(10, 11)).users("app@10.%", "app@localhost").roles("reader");
    Gap gap =
        gap(
            mariadb.build(),
            List.of(called("viewer", "reader")),
            List.of(called("feed", "app", "10.%", "localhost")));
    assertThat(gap.plan().steps())
        .filteredOn(Rename.class::isInstance)
        .containsExactly(
            new Rename("app@10.%", "feed@10.%", true),
            new Rename("app@localhost", "feed@localhost", true));
    assertThat(gap.plan().notes()).anyMatch(note -> note.startsWith("mariadb renames no roles"));
  }

  @Test
  void accountsOfOneNameAreRenamedTogetherOrNotAtAll() {
    TinyEstate mariadb = new TinyEstate(MariadbRules.of(10, 11)).users("app@10.%", "app@localhost");
    Gap gap = gap(mariadb.build(), List.of(), List.of(called("feed", "app", "10.%")));
    assertThat(gap.plan().problems())
        .extracting(Problem::message)
        .containsExactly("app also is app@localhost: list those hosts too, or rename it by hand");
  }

  @Test
  void whatAnAccountMadeIsNotLeftBehind() {
    TinyEstate mariadb = new TinyEstate(MariadbRules.of(10, 11)).users("app@%");
    mariadb.owned(NodeKind.SCHEMA, "s", null).owned(NodeKind.VIEW, "s.v", "app@%");
    Gap gap = gap(mariadb.build(), List.of(), List.of(called("feed", "app")));
    assertThat(gap.plan().problems())
        .extracting(Problem::message)
        .containsExactly("s.v would go on running as app@%, and fail: rename it by hand");
  }
}
