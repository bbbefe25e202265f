package fiador.report.pictures;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.report.pictures.Placed.BoxAt;
import fiador.report.pictures.Placed.LineAt;
import java.awt.geom.Line2D;
import java.awt.geom.Rectangle2D;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.junit.jupiter.api.Test;

/** Everything has a place of its own. */
final class LayoutTest {
  private static final int FIGURES = 200;

  private static Rectangle2D.Double inner(Rectangle2D.Double box) {
    return new Rectangle2D.Double(box.x + 1, box.y + 1, box.width - 2, box.height - 2);
  }

  @Test
  void noLineCrossesABoxAndNothingLiesOnAnotherThing() {
    for (int seed = 0; seed < FIGURES; seed++) {
      Placed placed = Layout.place(RandomFigures.of(seed, 24));
      List<Rectangle2D.Double> places = new ArrayList<>();
      placed.boxes().forEach(box -> places.add(inner(box.place())));
      placed.lines().stream()
          .map(LineAt::label)
          .filter(Objects::nonNull)
          .forEach(label -> places.add(inner(label)));
      for (int one = 0; one < places.size(); one++) {
        for (int other = 0; other < one; other++) {
          assertThat(places.get(one).intersects(places.get(other)))
              .as("seed %d: %s on %s", seed, places.get(one), places.get(other))
              .isFalse();
        }
      }
      for (LineAt line : placed.lines()) {
        for (int at = 1; at < line.points().size(); at++) {
          Line2D.Double part = new Line2D.Double(line.points().get(at - 1), line.points().get(at));
          for (BoxAt box : placed.boxes()) {
            assertThat(part.intersects(inner(box.place())))
                .as("seed %d: %s through %s", seed, line.line(), box.box().id())
                .isFalse();
          }
        }
      }
    }
  }

  @Test
  void theSameFigureGetsTheSamePlaces() {
    for (int seed = 0; seed < 20; seed++) {
      assertThat(Layout.place(RandomFigures.of(seed, 24)))
          .isEqualTo(Layout.place(RandomFigures.of(seed, 24)));
    }
  }

  @Test
  void namesAreShortenedInTheMiddleToFit() {
    String name = "a".repeat(90) + "z".repeat(90);
    String fits = Lettering.fitting(name, Lettering.NAME, 200);
    assertThat(fits).startsWith("aaa").endsWith("zzz").contains("…");
    assertThat(Lettering.width(fits, Lettering.NAME)).isLessThanOrEqualTo(200);
    assertThat(Lettering.fitting("short", Lettering.NAME, 200)).isEqualTo("short");
  }
}
