package fiador.selection;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.grants.TinyEstate;
import fiador.refusal.BadInput;
import org.junit.jupiter.api.Test;

/** What an answer is narrowed down to. */
final class SelectionTest {
  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui")
          .roles("analyst", "reader", "writer")
          .member("analyst", "reader")
          .member("ines", "analyst")
          .node(NodeKind.SCHEMA, "d.s")
          .node(NodeKind.TABLE, "d.s.t", "a")
          .node(NodeKind.VIEW, "d.s.t_view", "a")
          .node(NodeKind.SCHEMA, "d.other")
          .node(NodeKind.TABLE, "d.other.t", "a")
          .grant("reader", "select", "d.s.t");

  private Selection all() {
    return new Selection(tiny.build());
  }

  @Test
  void nothingSaidMeansEverything() {
    assertThat(all().takes(Principals.PUBLIC)).isTrue();
    assertThat(all().gave(-1)).isTrue();
    assertThat(all().includes(tiny.at("d.other.t"))).isTrue();
    assertThat(all().among(Privilege.SELECT.bit())).isEqualTo(Privilege.SELECT.bit());
  }

  @Test
  void aRoleGivesWhatTheRolesItHoldsGive() throws BadInput {
    Selection analyst = all().role("analyst");
    assertThat(analyst.takes(tiny.principal("reader"))).isTrue();
    assertThat(analyst.takes(tiny.principal("writer"))).isFalse();
    assertThat(analyst.ofRole(tiny.principal("analyst"))).isTrue();
    assertThat(analyst.ofRole(tiny.principal("reader"))).isFalse();
  }

  @Test
  void namesCanBePatternsInAnyLetters() throws BadInput {
    Selection ending = all().to("*ER").withoutPublic();
    assertThat(ending.takes(tiny.principal("reader"))).isTrue();
    assertThat(ending.takes(tiny.principal("writer"))).isTrue();
    assertThat(ending.takes(tiny.principal("analyst"))).isFalse();
    assertThat(ending.takes(Principals.PUBLIC)).isFalse();
    Selection dotted = all().on("s.t*");
    assertThat(dotted.includes(tiny.at("d.s.t"))).isTrue();
    assertThat(dotted.includes(tiny.at("d.s.t_view"))).isTrue();
    assertThat(dotted.includes(tiny.at("d.other.t"))).isFalse();
    assertThat(all().on("?").includes(tiny.at("d.other.t"))).isTrue();
  }

  @Test
  void aSchemaIsMeantWithWhatIsInIt() throws BadInput {
    Selection schema = all().schema("other");
    assertThat(schema.includes(tiny.at("d.other"))).isTrue();
    assertThat(schema.includes(tiny.at("d.other.t"))).isTrue();
    assertThat(schema.includes(tiny.at("d.s.t"))).isFalse();
    Selection views = all().schema("s").kind("view");
    assertThat(views.includes(tiny.at("d.s.t_view"))).isTrue();
    assertThat(views.includes(tiny.at("d.s.t"))).isFalse();
  }

  @Test
  void whatIsSaidTwiceNarrowsTwice() throws BadInput {
    Selection both = all().to("*er").to("r*");
    assertThat(both.takes(tiny.principal("reader"))).isTrue();
    assertThat(both.takes(tiny.principal("writer"))).isFalse();
    assertThat(all().privilege("select").privilege("insert").among(-1L)).isZero();
  }

  @Test
  void whatDoesNotExistIsSaid() {
    assertThatThrownBy(() -> all().to("analist")).hasMessageContaining("did you mean analyst");
    assertThatThrownBy(() -> all().to("x*")).hasMessageContaining("no user and no role");
    assertThatThrownBy(() -> all().on("zz*")).hasMessageContaining("nothing is called like zz*");
    assertThatThrownBy(() -> all().schema("s.t")).hasMessageContaining("is a table and no schema");
    assertThatThrownBy(() -> all().kind("shelf")).hasMessageContaining("the kinds are server");
    assertThatThrownBy(() -> all().privilege("selekt")).hasMessageContaining("did you mean select");
  }
}
