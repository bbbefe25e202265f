package fiador.changes.wanted;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Roles that include each other in a circle. */
public final class RoleCircles {
  private final Map<String, List<String>> includes;
  private final List<List<String>> found = new ArrayList<>();

  private RoleCircles(Map<String, List<String>> includes) {
    this.includes = includes;
  }

  /**
   * The circles, each from where it is closed round to there again. Cost: the inclusions. Depth
   * first, without recursion.
   *
   * @param includes which roles each role includes
   */
  public static List<List<String>> in(Map<String, List<String>> includes) {
    RoleCircles circles = new RoleCircles(includes);
    Set<String> finished = new HashSet<>();
    includes.keySet().forEach(start -> circles.from(start, finished));
    return circles.found;
  }

  private void from(String start, Set<String> finished) {
    List<String> path = new ArrayList<>(List.of(start));
    List<Integer> next = new ArrayList<>(List.of(0));
    while (!path.isEmpty() && !finished.contains(path.get(0))) {
      int top = path.size() - 1;
      List<String> included = includes.getOrDefault(path.get(top), List.of());
      int at = next.get(top);
      if (at >= included.size() || finished.contains(path.get(top))) {
        finished.add(path.remove(top));
        next.remove(top);
        continue;
      }
      next.set(top, at + 1);
      String name = included.get(at);
      int circle = path.indexOf(name);
      if (circle >= 0) {
        List<String> members = new ArrayList<>(path.subList(circle, path.size()));
        members.add(name);
        found.add(members);
      } else {
        path.add(name);
        next.add(0);
      }
    }
  }
}
