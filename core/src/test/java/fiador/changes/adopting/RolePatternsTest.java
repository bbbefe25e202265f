package fiador.changes.adopting;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.adopting.Adoption.Entry;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RolePatternsTest {
  private static Entry role(String name, List<String> held, String... may) {
    return new Entry(name, false, null, Map.of(), List.of(), held, List.of(may));
  }

  private static Entry reader(String schema) {
    return role(
        schema + "_read",
        List.of("all_readers"),
        "usage on schema " + schema,
        "select on every table and view in " + schema + ", now and later");
  }

  @Test
  void rolesThatDifferInTheirSchemaBecomeOnePattern() {
    RolePatterns found =
        RolePatterns.of(
            List.of(reader("billing"), role("auditor", List.of()), reader("metering")),
            List.of("billing", "metering", "network"));
    assertThat(found.patterns())
        .containsExactly(
            new RolePatterns.Pattern(List.of("billing", "metering"), reader("{schema}")));
    assertThat(found.others()).extracting(Entry::name).containsExactly("auditor");
  }

  @Test
  void aRoleThatHasMoreThanTheOthersIsNoneOfThem() {
    Entry more =
        role(
            "network_read",
            List.of("all_readers"),
            "usage on schema network",
            "select on every table and view in network, now and later",
            "select on table billing.customers");
    RolePatterns found =
        RolePatterns.of(
            List.of(reader("billing"), more, reader("metering")),
            List.of("billing", "metering", "network"));
    assertThat(found.patterns().get(0).schemas()).containsExactly("billing", "metering");
    assertThat(found.others()).containsExactly(more);
  }

  @Test
  void aSchemaIsAWordOfItsOwnAndNoPieceOfAnother() {
    Entry one = role("s_read", List.of(), "select on table s.sales");
    Entry other = role("t_read", List.of(), "select on table t.tales");
    assertThat(RolePatterns.of(List.of(one, other), List.of("s", "t")).patterns()).isEmpty();
    Entry third = role("t_read", List.of(), "select on table t.sales");
    assertThat(RolePatterns.of(List.of(one, third), List.of("s", "t")).patterns())
        .extracting(pattern -> pattern.role().may().get(0))
        .containsExactly("select on table {schema}.sales");
  }

  @Test
  void schemasThatAreCalledLikeWordsOfASentenceAreLeftAlone() {
    List<Entry> roles =
        List.of(
            role("table_read", List.of(), "select on every table in table"),
            role("view_read", List.of(), "select on every view in view"));
    RolePatterns found = RolePatterns.of(roles, List.of("table", "view"));
    assertThat(found.patterns()).isEmpty();
    assertThat(found.others()).isEqualTo(roles);
  }
}
