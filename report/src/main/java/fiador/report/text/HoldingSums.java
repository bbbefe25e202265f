package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.report.shown.Shown;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Long lists of holdings by schema: what may be done there, and on how many things. */
final class HoldingSums {
  private static final int PLACES_READ_AT_ONCE = 60;
  private static final int FEW = 8;
  private static final int LARGEST = 5;

  private final Access access;
  private final Shown shown;

  HoldingSums(Access access, Shown shown) {
    this.access = access;
    this.shown = shown;
  }

  /** What is put together. */
  private record Place(int node, NodeKind kind, State state) {}

  private static final class Sum {
    private int nodes;
    private int last = -1;
    private long privileges;

    void add(Holding row) {
      nodes += row.node() == last ? 0 : 1;
      last = row.node();
      privileges |= row.privilege().bit();
    }
  }

  /**
   * Lines of a place, the state, on how much, and what is held.
   *
   * @param rows by node
   */
  List<String[]> lines(List<Holding> rows) {
    return lines(sums(rows));
  }

  private List<String[]> lines(Map<Place, Sum> sums) {
    List<String[]> lines = new ArrayList<>();
    sums.forEach((at, held) -> lines.add(line(at, held)));
    return lines;
  }

  /**
   * As {@link #lines}, where those are more than are read at once: of many places where the same is
   * held, the largest, and how many others there are.
   */
  List<String[]> brief(List<Holding> rows) {
    Map<Place, Sum> sums = sums(rows);
    if (sums.size() <= PLACES_READ_AT_ONCE) {
      return lines(sums);
    }
    Map<Alike, List<Place>> found = new LinkedHashMap<>();
    sums.forEach(
        (at, held) ->
            found
                .computeIfAbsent(
                    new Alike(at.kind(), at.state(), held.privileges), fresh -> new ArrayList<>())
                .add(at));
    List<String[]> lines = new ArrayList<>();
    bestFirst(found)
        .forEach(
            (what, places) -> {
              int each = places.size() <= FEW ? FEW : what.kind().isObject() ? LARGEST : 0;
              places.sort(Comparator.comparing(place -> -sums.get(place).nodes));
              places.stream().limit(each).forEach(place -> lines.add(line(place, sums.get(place))));
              if (places.size() > each) {
                lines.add(others(what, places.subList(each, places.size()), sums));
              }
            });
    return lines;
  }

  private static Map<Alike, List<Place>> bestFirst(Map<Alike, List<Place>> found) {
    List<Alike> keys = new ArrayList<>(found.keySet());
    keys.sort(Comparator.comparing(Alike::state).thenComparing(Alike::kind));
    Map<Alike, List<Place>> sorted = new LinkedHashMap<>();
    keys.forEach(key -> sorted.put(key, found.get(key)));
    return sorted;
  }

  /** Those of many users who hold the same, and how much each of them. */
  private static final class Crowd {
    private final Set<Integer> places = new HashSet<>();
    private int users;
    private int least = Integer.MAX_VALUE;
    private int most;

    void add(Set<Integer> in, int nodes) {
      places.addAll(in);
      users++;
      least = Math.min(least, nodes);
      most = Math.max(most, nodes);
    }
  }

  /**
   * Lines of how many users, where, the state, on how much, and what each of them holds; the best
   * state first, what is further out before what is in it, and what many hold before what few do.
   *
   * @param byUser the rows of each, by node
   */
  List<String[]> crowds(Map<Integer, List<Holding>> byUser) {
    Map<Alike, Crowd> crowds = new LinkedHashMap<>();
    for (List<Holding> rows : byUser.values()) {
      Map<Alike, Set<Integer>> places = new LinkedHashMap<>();
      Map<Alike, Integer> nodes = new HashMap<>();
      sums(rows)
          .forEach(
              (at, held) -> {
                Alike alike = new Alike(at.kind(), at.state(), held.privileges);
                places.computeIfAbsent(alike, fresh -> new HashSet<>()).add(at.node());
                nodes.merge(alike, held.nodes, Integer::sum);
              });
      places.forEach(
          (alike, in) ->
              crowds.computeIfAbsent(alike, fresh -> new Crowd()).add(in, nodes.get(alike)));
    }
    List<String[]> lines = new ArrayList<>();
    crowds.entrySet().stream()
        .sorted(
            Map.Entry.<Alike, Crowd>comparingByKey(
                    Comparator.comparing(Alike::state).thenComparing(Alike::kind))
                .thenComparing(entry -> -entry.getValue().users))
        .forEach(entry -> lines.add(line(entry.getKey(), entry.getValue())));
    return lines;
  }

  private String[] line(Alike what, Crowd crowd) {
    int first = crowd.places.iterator().next();
    String where =
        crowd.places.size() == 1
            ? shown.node(first)
            : many(crowd.places.size(), access.tree().kind(first).text());
    String range = crowd.least == crowd.most ? "" : crowd.least + " to ";
    return new String[] {
      many(crowd.users, "user"),
      where,
      States.of(what.state()),
      what.kind().isObject() ? range + many(crowd.most, what.kind().text()) : "itself",
      PrivilegeSet.text(what.privileges())
    };
  }

  /** What can be put together further. */
  private record Alike(NodeKind kind, State state, long privileges) {}

  private String[] others(Alike what, List<Place> places, Map<Place, Sum> sums) {
    Sum all = new Sum();
    places.forEach(place -> all.nodes += sums.get(place).nodes);
    all.privileges = what.privileges();
    String[] line = line(places.get(0), all);
    boolean objects = what.kind().isObject();
    String kind = access.tree().kind(places.get(0).node()).text();
    line[0] = many(places.size(), objects ? "more " + kind : kind);
    return line;
  }

  private String[] line(Place at, Sum held) {
    return new String[] {
      shown.node(at.node()),
      States.of(at.state()),
      at.kind().isObject() ? many(held.nodes, at.kind().text()) : "itself",
      PrivilegeSet.text(held.privileges)
    };
  }

  private Map<Place, Sum> sums(List<Holding> rows) {
    Map<Place, Sum> sums = new LinkedHashMap<>();
    Place place = new Place(-1, NodeKind.SERVER, State.LIVE);
    Sum sum = new Sum();
    int last = -1;
    for (Holding row : rows) {
      // most rows are about what the one before was about, or something beside it
      if (row.node() != last || row.state() != place.state()) {
        Place next = place(row);
        if (!next.equals(place)) {
          place = next;
          sum = sums.computeIfAbsent(place, fresh -> new Sum());
        }
        last = row.node();
      }
      sum.add(row);
    }
    return sums;
  }

  private Place place(Holding row) {
    Tree tree = access.tree();
    NodeKind kind = tree.kind(row.node());
    int in = kind.isObject() ? tree.enclosing(row.node(), NodeKind.SCHEMA) : row.node();
    return new Place(in, kind, row.state());
  }

  static String many(int count, String kind) {
    return count + " " + kind + (count == 1 ? "" : "s");
  }
}
