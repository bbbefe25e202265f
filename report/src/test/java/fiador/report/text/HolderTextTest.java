package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Tracer;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.report.shown.Tone;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class HolderTextTest {
  private static final Clock CLOCK = Clock.fixed(Instant.ofEpochSecond(600), ZoneOffset.UTC);
  private static final int MANY = 80;

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("boss", "eva", "rui", "gil")
          .roles("reader", "writer", "keeper")
          .owned(NodeKind.SCHEMA, "d.s", "keeper")
          .owned(NodeKind.TABLE, "d.s.t", "keeper", "a", "b")
          .power("boss", Power.SUPERUSER)
          .member("writer", "reader")
          .member("gil", "keeper")
          .grant("reader", "usage", "d.s")
          .grant("reader", "select", "d.s.t")
          .grant("writer", "update*", "d.s.t", "b")
          .grant("eva", "insert", "d.s.t")
          .grant("rui", "insert", "d.s.t");

  private Access many(int users) {
    for (int i = 0; i < users; i++) {
      tiny.users("user_" + i);
      tiny.member(
          "user_" + i, i % 4 == 0 ? "writer" : "reader", Membership.of(false, i % 8 != 0, true));
    }
    return tiny.build();
  }

  private String said(Access access, boolean each) {
    HolderText text = new HolderText(access, () -> new Tracer(access, CLOCK), 120, CLOCK);
    int table = tiny.at("d.s.t");
    var rows = new Holders(access, CLOCK).of(table);
    return Tone.plain(each ? text.each(table, -1, rows) : text.summedUp(table, -1, rows));
  }

  @Test
  void manyAreCountedByWhatTheyHold() {
    String said = said(many(MANY), false);
    assertThat(said).startsWith("84 users hold something on table s.t, 72 of them live  ");
    assertThat(said.lines().map(String::strip))
        .containsSequence(
            "70 users   + live         select                       user_1, user_2, user_3 and 67 more",
            "10 users   + live         update (may grant) (b)       user_4, user_12, user_20 and 7 more",
            "2 users    + live         all privileges (may grant)   boss, gil",
            "10 users   ~ on-request   select                       user_0, user_8, user_16 and 7 more",
            "10 users   ~ on-request   update (may grant) (b)       user_0, user_8, user_16 and 7 more",
            "2 users    ! blocked      insert                       eva, rui")
        .endsWith("--full lists each");
  }

  @Test
  void whatGivesItStandsBelowWithHowManyComeThroughIt() {
    String said = said(many(MANY), false);
    assertThat(said.substring(said.indexOf("\nthrough\n")).lines().map(String::strip))
        .containsSequence(
            "80 users   reader          select",
            "20 users   writer          update (b)",
            "2 users    each directly   insert",
            "1 user     boss            superuser",
            "1 user     keeper          owner of table s.t");
  }

  @Test
  void aListThatIsReadAtOnceIsNotSummedUp() {
    Access access = many(20);
    assertThat(said(access, false))
        .isEqualTo(said(access, true))
        .contains("user_19")
        .doesNotContain("--full");
  }

  @Test
  void eachStandsThereWhenAskedFor() {
    String said = said(many(MANY), true);
    IntStream.range(0, MANY).forEach(i -> assertThat(said).contains("user_" + i + " "));
    assertThat(said).doesNotContain("through\n");
  }

  @Test
  void whatManyHoldInsideIsCountedToo() {
    tiny.node(NodeKind.TABLE, "d.s.more", "a").grant("writer", "select", "d.s.more");
    Access access = many(MANY);
    HolderText text = new HolderText(access, () -> new Tracer(access, CLOCK), 120, CLOCK);
    int schema = tiny.at("d.s");
    Holders holders = new Holders(access, CLOCK);
    List<Holding> rows = new ArrayList<>(holders.of(schema));
    rows.addAll(holders.of(tiny.at("d.s.t")));
    rows.addAll(holders.of(tiny.at("d.s.more")));
    assertThat(Tone.plain(text.insideSummedUp(schema, rows)).lines().map(String::strip))
        .contains(
            "70 users   schema s   + live         itself          usage",
            "60 users   schema s   + live         1 table         select",
            "10 users   schema s   + live         2 tables        select, update",
            "10 users   schema s   ~ on-request   2 tables        select, update",
            "2 users    schema s   ! blocked      1 table         insert")
        .endsWith("--full lists each user");
    assertThat(Tone.plain(text.inside(schema, rows))).contains("user_79").doesNotContain("--full");
  }
}
