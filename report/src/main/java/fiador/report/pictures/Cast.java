package fiador.report.pictures;

import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.report.pictures.Figure.Box;
import fiador.report.pictures.Figure.Line;
import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.Figure.Shape;
import fiador.report.shown.Shown;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.IntPredicate;
import org.jspecify.annotations.Nullable;

/** The boxes and lines of one figure while it is put together; each is there once. */
final class Cast {
  private final Access access;
  private final Tree tree;
  private final Shown shown;
  private final Map<String, Box> boxes = new LinkedHashMap<>();
  private final Set<Line> lines = new LinkedHashSet<>();
  private final Map<Long, Integer> alike = new HashMap<>();

  Cast(Access access, Shown shown) {
    this.access = access;
    this.tree = access.tree();
    this.shown = shown;
  }

  /** The box of a user or role, by its id. */
  String principal(int id) {
    String box = "p" + id;
    if (!boxes.containsKey(box)) {
      boolean user = id != Principals.PUBLIC && access.principals().isUser(id);
      Box made =
          Box.one(box, user ? Shape.USER : Shape.ROLE, shown.principal(id), user ? "user" : "role");
      boxes.put(box, id == Principals.PUBLIC ? made.saying("everybody") : made);
    }
    return box;
  }

  /** The box of a thing. */
  String thing(int node) {
    String box = "n" + node;
    if (!boxes.containsKey(box)) {
      NodeKind kind = tree.kind(node);
      Shape shape = kind.isObject() ? Shape.THING : Shape.CONTAINER;
      Box made = Box.one(box, shape, shown.path(node), kind.text());
      if (kind.isObject()) {
        int home = tree.parent(node);
        made = made.saying(kind == NodeKind.TABLE ? "" : kind.text());
        made = made.inside(shown.path(home), inside(home, kind));
      } else {
        made = made.saying(kind.text());
      }
      boxes.put(box, made);
    }
    return box;
  }

  /** How many of a kind lie in a container. */
  int inside(int container, NodeKind kind) {
    return inside(container, kind, node -> true);
  }

  /** Of a kind that lies in a container how many count; the same ones in each call. */
  int inside(int container, NodeKind kind, IntPredicate counts) {
    return alike.computeIfAbsent(
        (long) container << 8 | kind.ordinal(),
        key -> {
          int count = 0;
          for (int at = tree.children().from(container); at < tree.children().to(container); at++) {
            int child = tree.children().row(at);
            count += tree.kind(child) == kind && counts.test(child) ? 1 : 0;
          }
          return count;
        });
  }

  /** Says that the question is about a box. */
  void asked(String box) {
    boxes.computeIfPresent(box, (id, known) -> known.asked());
  }

  void line(String from, String to, Manner manner, String label) {
    lines.add(new Line(from, to, manner, label));
  }

  /** The line of a membership; false where it gives nothing. */
  boolean membership(int edge, @Nullable Manner instead) {
    Membership how = access.memberships().options(edge);
    if (!counts(how)) {
      return false;
    }
    Manner manner = how.inherit() ? Manner.WORKS : Manner.ON_REQUEST;
    line(
        principal(access.memberships().member(edge)),
        principal(access.memberships().role(edge)),
        instead == null ? manner : instead,
        how.admin() ? "may give it to others" : "");
    return true;
  }

  /** Whether a role gives its member anything, at once or after switching. */
  static boolean counts(Membership how) {
    return how.inherit() || how.set();
  }

  /** What a state looks like; null for one that works, which the way there tells apart. */
  static @Nullable Manner notWorking(State state) {
    return switch (state) {
      case LIVE, ON_REQUEST -> null;
      case BLOCKED -> Manner.BLOCKED;
      case DENIED -> Manner.DENIED;
      case LAPSED -> Manner.LAPSED;
    };
  }

  /** The figure, in the order of names, so that the next one is in the same order. */
  Figure figure(String title, String origin) {
    Map<String, Box> sorted = new TreeMap<>();
    boxes.values().forEach(box -> sorted.put(box.name() + "\n" + box.id(), box));
    Map<String, Line> lined = new TreeMap<>();
    for (Line line : lines) {
      String from = name(line.from());
      String to = name(line.to());
      lined.put(String.join("\n", from, to, line.manner().name(), line.label()), line);
    }
    return new Figure(
        title, origin, List.copyOf(sorted.values()), List.copyOf(lined.values()), List.of());
  }

  private String name(String id) {
    Box box = boxes.get(id);
    return (box == null ? "" : box.name()) + "\n" + id;
  }
}
