package fiador.report.pictures;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.report.pictures.Figure.Box;
import fiador.report.pictures.Figure.Line;
import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.Figure.Shape;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What is alike is drawn as one, and no more than can be read. */
final class FoldingTest {
  private static Figure figure(List<Box> boxes, List<Line> lines) {
    return new Figure("t", "o", boxes, lines, List.of());
  }

  private static Line line(String from, String to, String label) {
    return new Line(from, to, Manner.WORKS, label);
  }

  @Test
  void thoseWithTheSameLinesBecomeOneBoxThatSaysWhoTheyAre() {
    List<Box> boxes = new ArrayList<>();
    List<Line> lines = new ArrayList<>();
    boxes.add(Box.one("r", Shape.ROLE, "reader", "role"));
    for (int i = 0; i < 5; i++) {
      boxes.add(Box.one("u" + i, Shape.USER, "user" + i, "user"));
      lines.add(line("u" + i, "r", ""));
      boxes.add(Box.one("t" + i, Shape.THING, "s.t" + i, "table").inside("s", i < 3 ? 3 : 9));
      lines.add(line("r", "t" + i, i < 3 ? "select" : "update"));
    }
    Figure folded = Folding.toFit(figure(boxes, lines));
    assertThat(folded.boxes().stream().map(Box::name))
        .containsExactly("reader", "5 users", "every table in s, 3", "2 tables in s");
    assertThat(folded.boxes().get(1).below()).isEqualTo("user0, user1, user2, ...");
    assertThat(folded.boxes().get(3).below()).isEqualTo("t3, t4");
    assertThat(folded.lines().stream().map(Line::label))
        .containsExactlyInAnyOrder("", "select", "update");
    assertThat(folded.notes()).isEmpty();
  }

  @Test
  void whatIsAskedForStaysByItself() {
    List<Box> boxes =
        List.of(
            Box.one("a", Shape.USER, "ada", "user").asked(),
            Box.one("b", Shape.USER, "bea", "user"),
            Box.one("r", Shape.ROLE, "reader", "role"));
    Figure folded = Folding.toFit(figure(boxes, List.of(line("a", "r", ""), line("b", "r", ""))));
    assertThat(folded.boxes()).hasSize(3);
  }

  @Test
  void anyFigureIsMadeSmallEnoughAndLosesNobody() {
    for (int seed = 0; seed < 60; seed++) {
      Figure figure = RandomFigures.of(seed, seed < 40 ? 30 : 900);
      Figure folded = Folding.toFit(figure);
      assertThat(folded.boxes().size()).isLessThanOrEqualTo(Folding.MOST_BOXES);
      // one box of each shape and the one asked for is as small as it gets
      assertThat(folded.lines().size() <= Folding.MOST_LINES || folded.boxes().size() <= 5)
          .as("seed %d: %d lines", seed, folded.lines().size())
          .isTrue();
      assertThat(folded.boxes().stream().flatMap(box -> box.members().stream()))
          .containsExactlyInAnyOrderElementsOf(
              figure.boxes().stream().flatMap(box -> box.members().stream()).toList());
      assertThat(folded.boxes().stream().filter(Box::focus)).hasSize(1);
      assertThat(folded.lines())
          .allMatch(
              each ->
                  folded.byId().containsKey(each.from()) && folded.byId().containsKey(each.to()));
      assertThat(Folding.toFit(figure)).isEqualTo(folded);
    }
  }
}
