package fiador.report.pictures;

import fiador.report.pictures.Figure.Box;
import fiador.report.pictures.Figure.Line;
import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.Figure.Shape;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;

/** Figures of any shape, cycles and all, for properties. */
final class RandomFigures {
  private RandomFigures() {}

  static Figure of(long seed, int most) {
    Random random = new Random(seed);
    List<Box> boxes = new ArrayList<>();
    int count = 2 + random.nextInt(most);
    for (int i = 0; i < count; i++) {
      Shape shape = Shape.values()[random.nextInt(Shape.values().length)];
      String name = "n".repeat(1 + random.nextInt(40)) + i;
      Box box = Box.one("b" + i, shape, name, shape == Shape.USER ? "user" : "table");
      boxes.add(shape == Shape.THING ? box.inside("s" + random.nextInt(3), 5) : box);
    }
    boxes.set(0, boxes.get(0).asked());
    Set<Line> lines = new LinkedHashSet<>();
    for (int i = 0; i < count + random.nextInt(count + 1); i++) {
      int from = random.nextInt(count);
      int to = random.nextInt(count);
      Manner manner = Manner.values()[random.nextInt(Manner.values().length)];
      if (from != to) {
        String label =
            random.nextInt(3) == 0 ? "" : "select, insert".substring(0, 6 + random.nextInt(8));
        lines.add(new Line("b" + from, "b" + to, manner, label));
      }
    }
    return new Figure("Title " + seed, "made up", boxes, List.copyOf(lines), List.of());
  }
}
