package fiador.history;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.PostgresqlRules;
import fiador.history.GrantDates.Since;
import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Since when grants are there, from states of the past. */
final class GrantDatesTest {
  private static final Instant FIRST = Instant.parse("2026-01-01T00:00:00Z");
  private static final Instant SECOND = Instant.parse("2026-02-01T00:00:00Z");
  private static final Instant NOW = Instant.parse("2026-03-01T00:00:00Z");

  private static TinyEstate estate() {
    return TinyEstate.postgresql()
        .users("ines", "rui")
        .node(NodeKind.SCHEMA, "d.s")
        .node(NodeKind.TABLE, "d.s.t", "a", "b")
        .grant("ines", "select", "d.s.t");
  }

  private static Since of(Map<String, Since> dates, Access access, int grantee, Privilege what) {
    for (int row = 0; row < access.grants().size(); row++) {
      boolean theirs = access.grants().grantee(row) == grantee;
      if (theirs && (access.grants().terms(row).privileges() & what.bit()) != 0) {
        return dates.get(GrantDates.key(access, row, what));
      }
    }
    throw new IllegalStateException("no such grant");
  }

  @Test
  void eachIsAsOldAsTheLastTimeItCame() {
    TinyEstate tiny = estate().grant("rui", "select", "d.s.t").grant("rui", "insert", "d.s.t", "b");
    Access now = tiny.build();
    GrantDates dates = new GrantDates(now, NOW);
    assertThat(dates.add(estate().grant("rui", "insert", "d.s.t", "b").build(), SECOND)).isTrue();
    // there was another one then, on another column
    assertThat(dates.add(estate().grant("rui", "insert", "d.s.t", "a").build(), FIRST)).isTrue();
    int ines = tiny.principal("ines");
    int rui = tiny.principal("rui");
    assertThat(of(dates.result(), now, ines, Privilege.SELECT)).isEqualTo(new Since(FIRST, true));
    assertThat(of(dates.result(), now, rui, Privilege.SELECT)).isEqualTo(new Since(NOW, false));
    assertThat(of(dates.result(), now, rui, Privilege.INSERT)).isEqualTo(new Since(SECOND, false));
  }

  @Test
  void nothingOlderHasToBeReadWhereAllIsKnown() {
    Access now = TinyEstate.postgresql().users("x").grant("x", "connect", "d").build();
    GrantDates dates = new GrantDates(now, NOW);
    // what everybody has from the beginning stays open
    assertThat(dates.add(TinyEstate.postgresql().build(), SECOND)).isTrue();
    assertThat(dates.add(new TinyEstate(PostgresqlRules.of(18)).build(), FIRST)).isFalse();
    assertThat(dates.result().values())
        .containsOnly(new Since(NOW, false), new Since(SECOND, false));
  }
}
