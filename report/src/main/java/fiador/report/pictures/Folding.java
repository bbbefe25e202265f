package fiador.report.pictures;

import fiador.report.pictures.Figure.Box;
import fiador.report.pictures.Figure.Line;
import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.Figure.Shape;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * Puts boxes together until a figure can be read. First those that are alike: of one kind, in one
 * container, with the same lines to the same boxes; nothing is lost by that. Where that is not
 * enough, things by their container, and then the boxes with the fewest lines of each kind; then
 * the box says how many it stands for, and its lines are those of any of them.
 *
 * <p>Cost: the lines, a few times. The result depends on ids and names alone, so that the next
 * drawing of the same estate looks the same.
 */
public final class Folding {
  /** So many boxes and lines can be followed with the eyes on paper. */
  static final int MOST_BOXES = 60;

  static final int MOST_LINES = 70;

  /** And so many where those that do not matter can be dimmed. */
  private static final int MOST_BOXES_TO_TOUCH = 110;

  private static final int MOST_LINES_TO_TOUCH = 220;

  private static final int ROUNDS = 6;
  private static final int NAMED = 3;

  private Figure figure;
  private boolean lossy;

  private final int mostBoxes;
  private final int mostLines;

  private Folding(Figure figure, int mostBoxes, int mostLines) {
    this.figure = figure;
    this.mostBoxes = mostBoxes;
    this.mostLines = mostLines;
  }

  /** The figure for paper and a still picture. */
  public static Figure toFit(Figure figure) {
    return toFit(figure, MOST_BOXES, MOST_LINES);
  }

  /** The figure where a click dims what does not matter. */
  public static Figure toTouch(Figure figure) {
    return toFit(figure, MOST_BOXES_TO_TOUCH, MOST_LINES_TO_TOUCH);
  }

  /** The figure with everything alike in one box, and little enough of it to be read. */
  private static Figure toFit(Figure figure, int mostBoxes, int mostLines) {
    Folding folding = new Folding(figure, mostBoxes, mostLines);
    folding.alike();
    if (folding.isTooMuch()) {
      folding.byContainer();
      folding.alike();
    }
    while (folding.isTooMuch() && folding.leastConnected()) {
      folding.alike();
    }
    Figure done = folding.figure;
    if (!folding.lossy) {
      return done;
    }
    List<String> notes = new ArrayList<>(done.notes());
    notes.add(
        "Some of it is put together, so that it can be read: a line is there for some of those in a"
            + " box, not always for all.");
    return new Figure(done.title(), done.origin(), done.boxes(), done.lines(), notes);
  }

  private boolean isTooMuch() {
    return figure.boxes().size() > mostBoxes || figure.lines().size() > mostLines;
  }

  /** A line as one of its boxes has it. */
  private record End(boolean away, String other, Manner manner, String label) {}

  /** Puts together what has the same lines, until nothing more has. */
  private void alike() {
    for (int round = 0; round < ROUNDS; round++) {
      Map<String, Set<End>> around = new HashMap<>();
      for (Line line : figure.lines()) {
        around
            .computeIfAbsent(line.from(), id -> new HashSet<>())
            .add(new End(true, line.to(), line.manner(), line.label()));
        around
            .computeIfAbsent(line.to(), id -> new HashSet<>())
            .add(new End(false, line.from(), line.manner(), line.label()));
      }
      Map<List<Object>, List<Box>> groups = new LinkedHashMap<>();
      for (Box box : figure.boxes()) {
        Set<End> lines = around.getOrDefault(box.id(), Set.of());
        Object own = box.focus() ? box.id() : "";
        groups
            .computeIfAbsent(
                List.of(box.shape(), box.kind(), box.in(), lines, own), fresh -> new ArrayList<>())
            .add(box);
      }
      if (groups.size() == figure.boxes().size()) {
        return;
      }
      merge(groups.values());
    }
  }

  private void byContainer() {
    Map<List<Object>, List<Box>> groups = new LinkedHashMap<>();
    for (Box box : figure.boxes()) {
      boolean thing = box.shape() == Shape.THING && !box.focus() && !box.in().isEmpty();
      groups
          .computeIfAbsent(
              thing ? List.of(box.kind(), box.in()) : List.of(box.id()), fresh -> new ArrayList<>())
          .add(box);
    }
    lossy |= groups.size() < figure.boxes().size();
    merge(groups.values());
  }

  /** Puts boxes with few lines of the most frequent shape together; false where none are left. */
  private boolean leastConnected() {
    Map<String, Integer> lines = new HashMap<>();
    for (Line line : figure.lines()) {
      lines.merge(line.from(), 1, Integer::sum);
      lines.merge(line.to(), 1, Integer::sum);
    }
    Map<Shape, List<Box>> byShape = new LinkedHashMap<>();
    for (Box box : figure.boxes()) {
      if (!box.focus()) {
        byShape.computeIfAbsent(box.shape(), fresh -> new ArrayList<>()).add(box);
      }
    }
    List<Box> most =
        byShape.values().stream().max(Comparator.comparingInt(List::size)).orElse(List.of());
    if (most.size() < 2) {
      return false;
    }
    List<Box> fewest = new ArrayList<>(most);
    fewest.sort(
        Comparator.comparing((Box box) -> lines.getOrDefault(box.id(), 0)).thenComparing(Box::id));
    int tooMany = figure.boxes().size() - mostBoxes;
    int count = Math.min(fewest.size(), Math.max(2, tooMany + 1));
    Set<Box> together = new LinkedHashSet<>(fewest.subList(0, count));
    List<List<Box>> groups = new ArrayList<>();
    groups.add(most.stream().filter(together::contains).toList());
    figure.boxes().stream()
        .filter(box -> !together.contains(box))
        .forEach(b -> groups.add(List.of(b)));
    lossy = true;
    merge(groups);
    return true;
  }

  private void merge(Collection<List<Box>> groups) {
    Map<String, String> now = new HashMap<>();
    List<Box> boxes = new ArrayList<>();
    for (List<Box> group : groups) {
      Box box = group.size() == 1 ? group.get(0) : together(group);
      boxes.add(box);
      group.forEach(each -> now.put(each.id(), box.id()));
    }
    Map<List<Object>, Set<String>> labels = new LinkedHashMap<>();
    for (Line line : figure.lines()) {
      String from = now.getOrDefault(line.from(), line.from());
      String to = now.getOrDefault(line.to(), line.to());
      if (!from.equals(to)) {
        labels
            .computeIfAbsent(List.of(from, to, line.manner()), fresh -> new LinkedHashSet<>())
            .add(line.label());
      }
    }
    List<Line> lines = new ArrayList<>();
    labels.forEach(
        (key, said) -> {
          String label = said.size() == 1 ? said.iterator().next() : "";
          lines.add(new Line((String) key.get(0), (String) key.get(1), (Manner) key.get(2), label));
        });
    figure = figure.with(boxes, lines);
  }

  private static Box together(List<Box> group) {
    Box first = group.get(0);
    List<String> members = new ArrayList<>();
    Set<String> kinds = new LinkedHashSet<>();
    Set<String> containers = new LinkedHashSet<>();
    for (Box box : group) {
      members.addAll(box.members());
      kinds.add(box.kind());
      containers.add(box.in());
    }
    String kind = kinds.size() == 1 ? first.kind() : "thing";
    String in = containers.size() == 1 ? first.in() : "";
    String number = String.format(Locale.ROOT, "%,d", members.size());
    String many = number + " " + kind + "s";
    String name = many;
    if (!in.isEmpty()) {
      boolean all = first.ofAll() == members.size() && kinds.size() == 1;
      name = all ? "every " + kind + " in " + in + ", " + number : many + " in " + in;
    }
    return new Box(
        first.id(),
        first.shape(),
        name,
        named(members, in),
        kind,
        in,
        first.ofAll(),
        members,
        false);
  }

  private static String named(List<String> members, String in) {
    List<String> names = new ArrayList<>();
    for (String member : members.subList(0, Math.min(NAMED, members.size()))) {
      boolean said = !in.isEmpty() && member.startsWith(in + ".");
      names.add(said ? member.substring(in.length() + 1) : member);
    }
    return String.join(", ", names) + (members.size() > NAMED ? ", ..." : "");
  }
}
