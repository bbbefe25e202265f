package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Running;
import fiador.effects.Need;
import fiador.estate.Account;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import org.assertj.core.api.InstanceOfAssertFactories;
import org.junit.jupiter.api.Test;

/** What a statement needs, in words and as rows. */
final class StatementTextTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines")
          .roles("reads", "maker")
          .owned(NodeKind.SCHEMA, "d.s", "maker")
          .owned(NodeKind.TABLE, "d.s.t", "maker", "a", "b", "c")
          .node(NodeKind.TABLE, "d.s.u", "d")
          .grant("reads", "usage", "d.s")
          .grant("reads", "select", "d.s.t");

  private Need reads(String table, int... columns) {
    BitSet on = new BitSet();
    for (int column : columns) {
      on.set(column);
    }
    boolean any = columns.length == 0;
    return new Need.Right(Privilege.SELECT.bit(), tiny.at(table), any ? null : on, any);
  }

  private record Said(String text, Map<String, Object> document) {}

  private Said said(Need... needs) {
    Access access = tiny.build();
    Running.Answer answer = new Running(access, CLOCK).of(tiny.principal("ines"), List.of(needs));
    StatementText text = new StatementText(access, Shown.brief(access), 100, CLOCK);
    return new Said(Tone.plain(text.text(answer)), text.document(answer));
  }

  @Test
  void columnsOfOneAnswerStandTogether() {
    tiny.grant("ines", "usage", "d.s").grant("ines", "select", "d.s.t", "a", "b");
    Said said = said(reads("d.s.t", 0, 1, 2));
    assertThat(said.text())
        .startsWith("no: ines may not run this, 1 of 2 is missing")
        .containsPattern("yes +select \\(a, b\\) on table s.t +granted directly")
        .containsPattern("NO +select \\(c\\) on table s.t +nothing gives it")
        .containsPattern("helps +membership in reads");
    assertThat(said.document()).containsEntry("answer", "no").containsEntry("switch_to", null);
  }

  @Test
  void aRoleToSwitchToIsSaid() {
    tiny.member("ines", "reads", Membership.of(false, false, true));
    Said said = said(reads("d.s.t", 0));
    assertThat(said.text())
        .startsWith("yes, on request: ines may run this")
        .containsPattern("switch +SET ROLE reads first");
    assertThat(said.document())
        .containsEntry("state", "on-request")
        .containsEntry("switch_to", "reads");
  }

  @Test
  void whoCannotLogInIsSaid() {
    tiny.member("ines", "reads").account("ines", Account.PLAIN.with(true, null));
    Said said = said(reads("d.s.t", 0));
    assertThat(said.text()).startsWith("yes, but cannot log in: ines may run this");
    assertThat(said.document().get("cannot_log_in")).isNotNull();
  }

  @Test
  void anyColumnAndOwnersAreSaid() {
    Said said = said(reads("d.s.u"), new Need.Ownership(tiny.at("d.s.t")));
    assertThat(said.text())
        .contains("2 of 2 are missing")
        .contains("select on any column of table s.u")
        .containsPattern("NO +ownership on table s.t +maker owns it")
        .doesNotContain("helps");
  }

  @Test
  void severalGrantsHelpTogether() {
    tiny.grant("ines", "usage", "d.s");
    Need deletes = new Need.Right(Privilege.DELETE.bit(), tiny.at("d.s.u"), null, false);
    Said said = said(reads("d.s.u", 0), deletes);
    assertThat(said.text())
        .containsPattern("together +select \\(d\\) on table s.u to ines")
        .containsPattern("and +delete on table s.u to ines");
    assertThat(said.document().get("remedies"))
        .asInstanceOf(InstanceOfAssertFactories.LIST)
        .hasSize(2);
  }
}
