package fiador.changes.steps;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.grants.Membership;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What takes a step back is a step that can be carried out. */
final class InverseTest {
  private static final On TABLE = new On(NodeKind.TABLE, "d", List.of("s", "t"));

  @Test
  void aThingNobodyIsKnownToHaveOwnedStaysWithItsNewOwner() {
    ChangeOwner change = new ChangeOwner(TABLE, "keeper", null);
    assertThat(change.inverse()).isEqualTo(change);
    assertThat(change.inverse().about().principals()).containsExactly("keeper");
    assertThat(new ChangeOwner(TABLE, "keeper", "old").inverse())
        .isEqualTo(new ChangeOwner(TABLE, "old", "keeper"));
  }

  @Test
  void aRoleHeldOtherwiseBeforeIsHeldThatWayAgain() {
    Membership admin = Membership.of(true, true, true);
    GiveRole plainer = new GiveRole("r", "u", Membership.PLAIN, admin, true);
    assertThat(plainer.inverse()).isEqualTo(new GiveRole("r", "u", admin, Membership.PLAIN, true));
    assertThat(plainer.inverse().inverse()).isEqualTo(plainer);
  }

  @Test
  void whatIsTakenByItsGiverSaysWho() {
    Revoke revoke = new Revoke(1, TABLE, List.of(), "r", false, "g");
    LetIn in = new LetIn(revoke, new On(NodeKind.SCHEMA, "d", List.of("s")), "g");
    assertThat(in.about().grantor()).isEqualTo("g");
    assertThat(in.about().turn()).isEqualTo(Turn.TAKES);
    TakeOver over = new TakeOver(new Grant(1, TABLE, List.of(), "r", false), revoke);
    assertThat(over.about().turn()).isEqualTo(Turn.TAKES_OVER);
    assertThat(over.takesOver()).isTrue();
    assertThat(new LetIn(over, TABLE, "g").takesOver()).isTrue();
  }
}
