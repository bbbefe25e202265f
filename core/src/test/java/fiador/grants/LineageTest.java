package fiador.grants;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.grants.Lineage.Base;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What a view's columns show is followed to the bottom. */
final class LineageTest {
  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines")
          .node(NodeKind.SCHEMA, "d.s")
          .table("d.s.t", "ines", "a:text", "b:text")
          .node(NodeKind.VIEW, "d.s.one", "x", "y")
          .node(NodeKind.VIEW, "d.s.two", "x", "n")
          .shows("d.s.one", "x", "d.s.t", "a", true)
          .shows("d.s.one", "y", "d.s.t", "b", false)
          .shows("d.s.two", "x", "d.s.one", "x", true)
          .shows("d.s.two", "x", "d.s.one", "y", true)
          .showsNothing("d.s.two", "n");

  private Map<Base, Boolean> bases(String view, int column) {
    return tiny.build().reads().lineage().bases(tiny.at(view), column);
  }

  @Test
  void throughViewsOfViews() {
    assertThat(bases("d.s.two", 0))
        .isEqualTo(
            Map.of(new Base(tiny.at("d.s.t"), 0), true, new Base(tiny.at("d.s.t"), 1), false));
    assertThat(bases("d.s.two", 1)).isEmpty();
    assertThat(bases("d.s.two", -1)).hasSize(2);
  }

  @Test
  void aValueThatComesBothWaysIsWorkedOut() {
    tiny.shows("d.s.two", "x", "d.s.t", "a", false);
    assertThat(bases("d.s.two", 0)).containsEntry(new Base(tiny.at("d.s.t"), 0), false);
  }

  @Test
  void viewsThatReadEachOtherComeToAnEnd() {
    tiny.shows("d.s.one", "x", "d.s.two", "x", true);
    assertThat(bases("d.s.two", 0)).containsKey(new Base(tiny.at("d.s.t"), 0));
  }
}
