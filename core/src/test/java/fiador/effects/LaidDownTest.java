package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.columns.Chars;
import fiador.columns.HeapColumns;
import fiador.estate.PrincipalKind;
import fiador.grants.Access;
import fiador.grants.AccessColumns;
import fiador.grants.ColumnSets;
import fiador.grants.Forms;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.WhatIf;
import java.time.Clock;
import org.junit.jupiter.api.Test;

/** An estate that was laid down in columns answers as the one it was. */
final class LaidDownTest {
  private static final int SEEDS = 150;

  private static Access again(Access access) {
    return Forms.ready(access);
  }

  private static void same(Access one, Access other, long seed) {
    Clock clock = Clock.systemUTC();
    for (int id = 0; id < one.principals().size(); id++) {
      assertThat(new Holdings(other, clock, true).of(id))
          .as("holdings of %d, seed %d", id, seed)
          .isEqualTo(new Holdings(one, clock, true).of(id));
      assertThat(new Holdings(other, clock, false).count(id))
          .isEqualTo(new Holdings(one, clock, false).count(id));
      assertThat(other.principals().account(id)).isEqualTo(one.principals().account(id));
      assertThat(other.principals().named(one.principals().name(id)))
          .isEqualTo(one.principals().named(one.principals().name(id)));
    }
    for (int node = 0; node < one.tree().size(); node++) {
      assertThat(other.tree().path(node)).isEqualTo(one.tree().path(node));
      assertThat(new Holders(other, clock).of(node))
          .as("holders of %d, seed %d", node, seed)
          .isEqualTo(new Holders(one, clock).of(node));
    }
  }

  @Test
  void answersAreTheSame() {
    for (long seed = 1; seed <= SEEDS; seed++) {
      Access access = RandomAccess.of(seed);
      same(access, again(access), seed);
      same(access, again(again(access)), seed);
    }
  }

  @Test
  void whatIsSupposedOfItIsTheSame() {
    for (long seed = 1; seed <= SEEDS; seed++) {
      Access access = RandomAccess.of(seed);
      same(supposed(access), supposed(again(access)), seed);
    }
  }

  private static Access supposed(Access access) {
    WhatIf change = new WhatIf(access);
    int role = change.principal(PrincipalKind.ROLE, "brand_new");
    int user = access.principals().size() - 1;
    change.join(user, role, Membership.PLAIN, -1);
    change.grant(role, access.tree().size() - 1, Terms.of(1, 0), ColumnSets.WHOLE, -1);
    if (access.memberships().size() > 0) {
      change.leave(0);
    }
    change.owner(user, access.tree().size() - 1, 2);
    return change.access();
  }

  @Test
  void whatIsSupposedIsNotLaidDown() {
    Access supposed = supposed(RandomAccess.of(1));
    assertThatThrownBy(() -> again(supposed)).isInstanceOf(IllegalStateException.class);
  }

  @Test
  void whatAnotherVersionLaidDownIsNotTakenUp() {
    HeapColumns columns = new HeapColumns();
    Access access = RandomAccess.of(1);
    AccessColumns.put(access, AccessColumns.Extents.of(access), columns);
    Chars right = columns.chars("rest.chars");
    String other = right.text(0, right.size()).replaceFirst("SELECT", "SELEKT");
    columns.chars("rest.chars", Chars.of(other));
    assertThatThrownBy(() -> AccessColumns.take(columns))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("another version");
  }

  @Test
  void textsThatCameLaterAreLeftOut() {
    Access access = RandomAccess.of(2);
    AccessColumns.Extents extents = AccessColumns.Extents.of(access);
    access.names().intern("came later");
    access.columnSets().intern(0, 3, 5);
    HeapColumns columns = new HeapColumns();
    AccessColumns.put(access, extents, columns);
    Access laid = AccessColumns.take(columns);
    assertThat(laid.names().size()).isEqualTo(extents.texts());
    assertThat(laid.names().find("came later")).isEqualTo(-1);
    assertThat(laid.columnSets().size()).isEqualTo(extents.columnSets());
    int id = laid.names().intern("came later");
    assertThat(laid.names().text(id)).isEqualTo("came later");
    assertThat(laid.names().intern("came later")).isEqualTo(id).isEqualTo(extents.texts());
    int set = laid.columnSets().intern(5, 0, 3);
    assertThat(laid.columnSets().ordinals(set)).containsExactly(0, 3, 5);
    assertThat(set).isEqualTo(extents.columnSets());
    for (int known = 0; known < extents.columnSets(); known++) {
      assertThat(laid.columnSets().intern(laid.columnSets().ordinals(known))).isEqualTo(known);
    }
  }
}
