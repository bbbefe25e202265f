package fiador.report.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Tracer;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What a program decides on is in codes and names, whatever the sentences beside them say. */
final class TraceDocumentTest {
  private static final Clock CLOCK =
      Clock.fixed(Instant.parse("2026-03-01T10:00:00Z"), ZoneOffset.UTC);

  private static TinyEstate estate() {
    return TinyEstate.postgresql()
        .users("ines")
        .roles("reader")
        .node(NodeKind.SCHEMA, "d.s")
        .node(NodeKind.TABLE, "d.s.t", "a", "b");
  }

  private static Map<String, Object> document(TinyEstate tiny) {
    Access access = tiny.build();
    Tracer tracer = new Tracer(access, CLOCK);
    return TraceDocument.of(
        access,
        tracer.trace(tiny.principal("ines"), Privilege.SELECT, tiny.at("d.s.t"), -1, 5),
        CLOCK.instant());
  }

  @SuppressWarnings("unchecked")
  private static List<Map<String, Object>> rows(Map<String, Object> document, String field) {
    return (List<Map<String, Object>>) document.get(field);
  }

  @Test
  void nothingGivesItAndWhatWould() {
    Map<String, Object> document = document(estate().grant("ines", "usage", "d.s"));
    assertThat(rows(document, "obstacles")).containsExactly(Map.of("code", "nothing-gives-it"));
    assertThat(rows(document, "helps"))
        .contains(Map.of("code", "grant", "object", "d.s.t", "privilege", "select", "to", "ines"));
  }

  @Test
  void aMissingGateSaysWhichAndWhoLacksIt() {
    Map<String, Object> document = document(estate().grant("ines", "select", "d.s.t"));
    assertThat(rows(document, "obstacles"))
        .containsExactly(
            Map.of(
                "code", "missing-gate",
                "object", "d.s",
                "privilege", "usage",
                "at_login", false,
                "who", "ines"));
    assertThat(rows(document, "helps"))
        .containsExactly(
            Map.of("code", "grant", "object", "d.s", "privilege", "usage", "to", "ines"));
  }

  @Test
  void someColumnsOnlyAreNamed() {
    Map<String, Object> document =
        document(estate().grant("ines", "usage", "d.s").grant("ines", "select", "d.s.t", "b"));
    assertThat(rows(document, "obstacles"))
        .containsExactly(Map.of("code", "only-columns", "columns", List.of("b")));
  }

  @Test
  void aPathSaysWhatGivesIt() {
    TinyEstate tiny =
        estate()
            .grant("reader", "usage", "d.s")
            .grant("reader", "select", "d.s.t")
            .member("ines", "reader", Membership.of(false, true, true));
    Map<String, Object> path = rows(document(tiny), "paths").get(0);
    assertThat(path).containsEntry("given_by", Map.of("code", "grant", "object", "d.s.t"));
    assertThat(path).containsEntry("chain", List.of("ines", "reader"));
  }
}
