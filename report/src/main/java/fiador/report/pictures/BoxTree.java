package fiador.report.pictures;

import fiador.report.pictures.Figure.Box;
import fiador.report.pictures.Figure.Line;
import fiador.report.pictures.Figure.Manner;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** A figure as a tree of lines of text, from what the question was about in both directions. */
public final class BoxTree {
  /** Deeper than that nobody reads, and each step deeper is a call. */
  private static final int DEEPEST = 3 * 40;

  private final Map<String, Box> boxes;
  private final Map<String, List<Line>> out = new HashMap<>();
  private final Map<String, List<Line>> in = new HashMap<>();
  private final StringBuilder text = new StringBuilder();
  private final Set<String> shown = new HashSet<>();

  private BoxTree(Figure figure) {
    this.boxes = figure.byId();
    for (Line line : figure.lines()) {
      out.computeIfAbsent(line.from(), fresh -> new ArrayList<>()).add(line);
      in.computeIfAbsent(line.to(), fresh -> new ArrayList<>()).add(line);
    }
  }

  /** The figure as text, its title first, its origin last. */
  public static String of(Figure figure) {
    BoxTree tree = new BoxTree(figure);
    tree.text.append(figure.title()).append("\n\n");
    List<Box> asked = figure.boxes().stream().filter(Box::focus).toList();
    for (Box box : asked.isEmpty() ? tree.roots(figure) : asked) {
      tree.root(box, !asked.isEmpty());
    }
    figure.notes().forEach(note -> tree.text.append('\n').append(note).append('\n'));
    return tree.text.append("\n(").append(figure.origin()).append(")\n").toString();
  }

  /** Where nothing was asked for: whatever nothing leads to. */
  private List<Box> roots(Figure figure) {
    List<Box> roots = figure.boxes().stream().filter(box -> !in.containsKey(box.id())).toList();
    return roots.isEmpty() ? figure.boxes() : roots;
  }

  private void root(Box box, boolean bothWays) {
    boolean members = bothWays && in.containsKey(box.id());
    boolean holds = out.containsKey(box.id());
    if (members) {
      text.append(named(box)).append(", reached by\n");
      shown.add(box.id());
      branches(in.getOrDefault(box.id(), List.of()), "", false);
    }
    if (holds || !members) {
      text.append(members ? "\n" : "").append(named(box));
      text.append(holds ? members ? ", holds\n" : "\n" : "\n");
      shown.add(box.id());
      branches(out.getOrDefault(box.id(), List.of()), "", true);
    }
  }

  private void branches(List<Line> lines, String indent, boolean outwards) {
    for (int i = 0; i < lines.size(); i++) {
      Line line = lines.get(i);
      boolean last = i == lines.size() - 1;
      Box box = boxes.get(outwards ? line.to() : line.from());
      if (box == null) {
        continue;
      }
      List<Line> more = (outwards ? out : in).getOrDefault(box.id(), List.of());
      boolean deep = indent.length() >= DEEPEST;
      boolean again = !more.isEmpty() && !deep && !shown.add(box.id());
      text.append(indent).append(last ? "└─ " : "├─ ").append(said(line, box));
      text.append(again ? " (as above)" : deep && !more.isEmpty() ? " ..." : "").append('\n');
      if (!again && !deep) {
        branches(more, indent + (last ? "   " : "│  "), outwards);
      }
    }
  }

  private static String said(Line line, Box box) {
    String label = line.label().isEmpty() ? "" : ": " + line.label();
    String manner = line.manner() == Manner.WORKS ? "" : " (" + line.manner().text() + ")";
    return named(box) + label + manner;
  }

  private static String named(Box box) {
    boolean several = box.count() > 1;
    return box.name() + (several && !box.below().isEmpty() ? " (" + box.below() + ")" : "");
  }
}
