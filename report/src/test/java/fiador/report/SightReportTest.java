package fiador.report;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.effects.Holdings;
import fiador.effects.Tracer;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.policies.Bypass;
import fiador.report.exchange.TraceDocument;
import fiador.report.rows.ChangeRows;
import fiador.report.rows.HoldingRows;
import fiador.report.shown.Tone;
import fiador.report.text.BypassText;
import fiador.report.text.ChangeText;
import fiador.report.text.PreviewText;
import fiador.report.text.TraceText;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Rows, masks and ways round them, as people and programs read them. */
final class SightReportTest {
  private static final Clock CLOCK = Clock.fixed(Instant.ofEpochSecond(600), ZoneOffset.UTC);

  private final TinyEstate tiny =
      new TinyEstate(HsqldbRules.rules())
          .users("INES", "RUI")
          .roles("CHIEF")
          .member("RUI", "CHIEF")
          .node(NodeKind.SCHEMA, "S")
          .table("S.T", null, "DISTRICT:text", "PHONE:text")
          .table("S.T_SAFE", null, "DISTRICT:text", "PHONE:text")
          .kept(
              "S.T_SAFE",
              "S.T",
              true,
              "any\town\ttrue\tholds(\"CHIEF\")\t\"DISTRICT\" in user.districts",
              "mask\tcontact\tholds(\"CHIEF\") is not true\tPHONE\tkeep_last(3)")
          .attribute("INES", "districts", "north")
          .grant("INES", "select", "S.T_SAFE")
          .grant("RUI", "select", "S.T_SAFE");

  private String trace(String user, String path) {
    Access access = tiny.build();
    return new TraceText(access, 90, CLOCK.instant())
        .text(
            new Tracer(access, CLOCK)
                .trace(tiny.principal(user), Privilege.SELECT, tiny.at(path), -1, 5));
  }

  @Test
  void aTraceNamesRowsAndMasksAsPeopleWriteThem() {
    assertThat(trace("INES", "S.T_SAFE"))
        .contains("rows    own: district in ('north')")
        .contains("masks   phone: keep_last(3)  (contact)");
    assertThat(trace("RUI", "S.T_SAFE")).contains("rows    exempt from own: all");
  }

  @Test
  void aClosedTablePointsToItsSafeView() {
    assertThat(trace("INES", "S.T"))
        .contains("s.t_safe shows the table as its policies say")
        .doesNotContain("a direct grant");
  }

  @Test
  void holdingsCarryRowsAndMasksForPrograms() {
    Access access = tiny.build();
    HoldingRows rows = new HoldingRows(access, Instant.EPOCH);
    Map<String, Object> ines =
        rows.row(new Holdings(access, CLOCK, false).of(tiny.principal("INES")).get(0));
    assertThat(ines)
        .containsEntry("rows", "DISTRICT in ('north')")
        .containsEntry("masked", List.of("PHONE"));
    Map<String, Object> rui =
        rows.row(new Holdings(access, CLOCK, false).of(tiny.principal("RUI")).get(0));
    assertThat(rui).doesNotContainKeys("rows", "masked");
  }

  @Test
  void waysRoundAreOneLineEach() {
    tiny.grant("INES", "select", "S.T");
    Access access = tiny.build();
    BypassText text = new BypassText(access, 90, CLOCK.instant());
    List<Bypass.Way> ways = new Bypass(access, CLOCK).ways();
    assertThat(Tone.plain(text.text(ways, java.util.Map.of())))
        .startsWith("1 way round a policy")
        .contains("s.t   hidden rows; phone unmasked   the table itself   ines");
    assertThat(text.row(ways.get(0)))
        .containsEntry("table", "S.T")
        .containsEntry("through", List.of("S.T"))
        .containsEntry("columns", List.of("PHONE"))
        .containsEntry("users", List.of("INES"));
    assertThat(Tone.plain(text.text(List.of(), java.util.Map.of())))
        .startsWith("nobody gets round a policy");
  }

  @Test
  void aTraceOfAViewSaysWhatItShows() {
    tiny.node(NodeKind.VIEW, "S.V", "PLACE", "CODE", "HOW_MANY")
        .shows("S.V", "PLACE", "S.T", "DISTRICT", true)
        .shows("S.V", "CODE", "S.T", "PHONE", false)
        .showsNothing("S.V", "HOW_MANY")
        .grant("INES", "select", "S.V");
    assertThat(trace("INES", "S.V")).contains("shows   s.t: district, phone (worked out)");
    Access access = tiny.build();
    Tracer tracer = new Tracer(access, CLOCK);
    int ines = tiny.principal("INES");
    int view = tiny.at("S.V");
    assertThat(
            TraceDocument.of(
                    access, tracer.trace(ines, Privilege.SELECT, view, 1, 5), Instant.EPOCH)
                .get("shows"))
        .isEqualTo(List.of(Map.of("object", "S.T", "column", "PHONE", "as_is", false)));
    assertThat(
            new TraceText(access, 90, CLOCK.instant())
                .text(tracer.trace(ines, Privilege.SELECT, view, 2, 5)))
        .contains("shows   no value of any table");
  }

  @Test
  void whatPeopleSeeOtherwiseIsToldTogetherForThoseWhoSeeAlike() {
    tiny.users("LIA").grant("LIA", "select", "S.T_SAFE");
    Access access = tiny.build();
    List<Step> steps =
        List.of(
            new SetAttribute(null, "INES", "districts", List.of("north"), List.of("delta")),
            new SetAttribute(null, "LIA", "districts", List.of(), List.of("coast")),
            new TakeRole("CHIEF", "RUI", Membership.PLAIN, null, false));
    Gap gap = Gap.of(access, steps, CLOCK);
    ChangeText text = new ChangeText(gap, 120);
    assertThat(text.seen())
        .contains("ines   s.t: rows where district in ('delta'), before rows where district in")
        .contains("rui    s.t: no rows, before all rows; phone keep_last(3), before clear")
        .contains("lia    s.t: rows where district in ('coast'), before no rows");
    assertThat(text.summary()).endsWith("3 users see other rows or values");
    ChangeRows rows = new ChangeRows(gap);
    Map<String, Object> rui =
        gap.sights().stream()
            .map(rows::row)
            .filter(row -> row.get("user").equals("RUI"))
            .findFirst()
            .orElseThrow();
    assertThat(rui)
        .containsEntry("object", "S.T")
        .containsEntry("rows_was", "true")
        .containsEntry("rows_is", "false")
        .containsEntry("masks_was", Map.of())
        .containsEntry("masks_is", Map.of("PHONE", "keep_last(3)"));
  }

  @Test
  void rowsStandInColumnsNumbersToTheRightAndNothingBreaksTheLine() {
    String table =
        PreviewText.table(
            List.of("id", "name"),
            List.of(
                new Object[] {BigDecimal.ONE, "two\nlines"},
                new Object[] {BigDecimal.TEN, null},
                new Object[] {null, "x".repeat(60)}),
            40);
    assertThat(table.lines()).allMatch(line -> line.length() <= 40);
    assertThat(table).contains("   1  two\\nlines").contains("  10  -").contains("…");
    assertThat(PreviewText.document(List.of("a", "b"), new Object[] {null, "x"}))
        .containsEntry("a", null)
        .containsEntry("b", "x");
    assertThat(PreviewText.groups(Map.of("north", new long[] {4, 2, 1}), true).get(0))
        .containsEntry("rows", 4L)
        .containsEntry("shown", 2L)
        .containsEntry("compared", 1L);
  }
}
