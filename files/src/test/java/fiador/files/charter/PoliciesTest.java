package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.WantedSight;
import fiador.predicates.PredicateText;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Row policies, masks, labels, lookups and seals of a charter. */
final class PoliciesTest {
  private static final String HEAD =
      """
      fiador: 1
      roles:
        clerk: {}
        chief: {includes: [clerk]}
      users:
        ines: {roles: [clerk], attributes: {districts: [north, delta], level: 3}}
      """;

  @TempDir Path folder;

  private Charter read(String policies) throws Exception {
    Files.writeString(folder.resolve("fiador.yaml"), HEAD + policies);
    return CharterReader.read(folder, name -> null);
  }

  private List<String> mistakes(String policies) throws Exception {
    Files.writeString(folder.resolve("fiador.yaml"), HEAD + policies);
    CharterException wrong =
        catchThrowableOfType(
            CharterException.class, () -> CharterReader.read(folder, name -> null));
    return wrong.mistakes().stream().map(Object::toString).toList();
  }

  @Test
  void whatPoliciesSayIsUnderstood() throws Exception {
    WantedSight sight =
        read("""
                labels:
                  contact: [b.people.phone]
                lookups:
                  desk: {table: n.desks, key: who, value: district}
                  crew: {table: n.crews, key: role_name, keyed_by: role, value: district}
                row_policies:
                  own:
                    on: [b.people, every table in m]
                    uses: {district: zone}
                    applies_to: {any_of: [role clerk, "user.level = '3'"], none_of: [user ines]}
                    rows: district in user.districts or district in lookup(desk)
                    combine: all
                  off: {on: b.people, rows: "name = 'x'", enabled: false}
                mask_policies:
                  phones:
                    on: columns labelled contact
                    in: b
                    clear_for: [role chief]
                    uses: {district: zone}
                    clear_where: district in user.districts
                    mask: {text: keep_last(3), otherwise: blank}
                    rank: 2
                    place: under the table's name
                seals:
                  lab: {on: schema laboratory, open_to: [role chief]}
                """)
            .wanted()
            .sight();
    assertThat(sight.rows()).hasSize(1);
    WantedSight.Rows own = sight.rows().get(0);
    assertThat(own.any()).isFalse();
    assertThat(own.on()).hasSize(2);
    assertThat(own.uses()).containsEntry("district", "zone");
    assertThat(PredicateText.of(own.applies())).isEqualTo("holds(clerk) or user.level = '3'");
    assertThat(PredicateText.of(own.exempts())).isEqualTo("user.name = 'ines'");
    WantedSight.Masks phones = sight.masks().get(0);
    assertThat(PredicateText.of(phones.applies())).isEqualTo("holds(chief) is not true");
    assertThat(phones.labels()).containsExactly("contact");
    assertThat(PredicateText.of(phones.clearWhere().expression()))
        .isEqualTo("district in user.districts");
    assertThat(phones.clearWhereAt()).hasToString("fiador.yaml:26:18");
    assertThat(phones.uses()).containsEntry("district", "zone");
    assertThat(phones.rank()).isEqualTo(2);
    assertThat(phones.view()).isEqualTo(ViewPlace.UNDER_NAME);
    assertThat(own.view()).isEqualTo(ViewPlace.UNSAID);
    assertThat(sight.lookups())
        .extracting(each -> each.keys().text())
        .containsExactly("user", "role");
    assertThat(sight.attributes().get("ines").get("districts")).containsExactly("north", "delta");
    assertThat(sight.seals().get(0).openTo()).containsExactly("chief");
  }

  @Test
  void allMistakesAreNamedWithTheirPlaces() throws Exception {
    assertThat(
            mistakes(
                """
                lookups:
                  desk: {table: n.desks, value: district}
                  crew: {table: n.crews, key: role_name, value: district}
                  area: {table: n.crews, key: name, keyed_by: user.a b, value: district}
                row_policies:
                  one: {on: b.x, rows: "district in user.distrcts"}
                  two: {on: b.x, rows: "district in lookup(desks)"}
                  three: {on: b.x, rows: "district ="}
                  four: {on: b.x, rows: "1 = 1 or true"}
                  five: {on: b.x, applies_to: {any_of: [role clrk, clerk]}, rows: "a = 1"}
                  six: {rows: "a = 1"}
                  seven: {on: b.x, rows: "a = 1", combine: some}
                mask_policies:
                  eight: {on: columns labelled contct, mask: stars}
                  nine: {on: b.x.y, mask: {texts: stars, text: keep_last}}
                  late: {on: b.x.y, mask: stars, clear_where: "true or a = 1"}
                  odd: {on: b.x.y, mask: stars, clear_where: "a in user.distrcts"}
                seals:
                  ten: {on: schema s, open_to: [role chef]}
                """))
        .containsExactly(
            "fiador.yaml:8:3: lookup desk has no \"key\"",
            "fiador.yaml:9:3: the keys of lookup crew look like names of roles: say \"keyed_by: role\", or"
                + " \"keyed_by: user\" if they are names of users; as names of users they would match"
                + " nobody",
            "fiador.yaml:10:47: found \"user.a b\", expected what stands in the key column: user, role"
                + " or user.ATTRIBUTE",
            "fiador.yaml:12:24: no user of the charter has the attribute distrcts; did you mean"
                + " districts?",
            "fiador.yaml:13:24: there is no lookup desks; did you mean desk?",
            "fiador.yaml:14:37: found the end, expected a column, a value or a function",
            "fiador.yaml:15:25: this shows every row, for everybody it applies to",
            "fiador.yaml:16:41: there is no role \"clrk\" in the charter; did you mean clerk?",
            "fiador.yaml:16:52: found clerk, expected role NAME, user NAME or a condition on"
                + " user.ATTRIBUTE",
            "fiador.yaml:17:3: row policy six has no \"on\"",
            "fiador.yaml:18:44: there is no way to combine \"some\"; expected one of any, all",
            "fiador.yaml:20:32: there is no label contct",
            "fiador.yaml:21:28: there is no kind of column \"texts\"; there are text, number,"
                + " date, boolean, otherwise",
            "fiador.yaml:21:48: \"keep_last\" is to be written keep_last(n)",
            "fiador.yaml:22:47: this masks nothing, for everybody it applies to",
            "fiador.yaml:23:46: no user of the charter has the attribute distrcts; did you mean"
                + " districts?",
            "fiador.yaml:25:33: there is no role or user \"chef\" in the charter; did you mean"
                + " chief?");
  }
}
