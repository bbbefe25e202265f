package fiador.report.text;

import fiador.changes.Gap;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.PrincipalKind;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;

/**
 * What a change does to people, condensed: users with the same changes in one line, and many
 * objects as a number.
 */
public final class ChangeText {
  private static final int NAMES = 3;
  private static final int LINES = 40;

  private final Gap gap;
  private final Access after;
  private final Tree tree;
  private final Shown shown;
  private final int width;
  private final Map<Integer, IntOpenHashSet> usersBelow = new LinkedHashMap<>();

  /**
   * @param width how wide a line may be
   */
  public ChangeText(Gap gap, int width) {
    this.gap = gap;
    this.after = gap.outcome().after();
    this.tree = gap.before().tree();
    this.shown = Shown.brief(after);
    this.width = width;
  }

  /** One kind of change to one set of nodes. */
  private record What(String sign, String verb, String privileges, String ending) {}

  /** A user's change to one node, before privileges are put together. */
  private record Single(
      int user, String sign, String verb, int node, BitSet columns, String ending) {}

  /** What people see otherwise; empty when nobody does. */
  public String seen() {
    return new SightChangeText(shown, this::who, width).text(gap.sights());
  }

  /** What becomes of rows and columns; empty when no policy changes. */
  public String sights() {
    return new PolicyStepsText(shown, width).text(gap.plan().steps());
  }

  /** The lines of the effect, gains first; empty when nobody is touched. */
  public String text() {
    Map<Single, Long> singles = new LinkedHashMap<>();
    for (Change change : gap.effects()) {
      singles.merge(single(change), change.privilege().bit(), (a, b) -> a | b);
    }
    singles = withColumnsTogether(singles);
    Map<Integer, Map<What, Set<Integer>>> byUser = new TreeMap<>();
    singles.forEach(
        (single, bits) -> {
          String ending = single.ending();
          if (single.columns() != null) {
            ending = "(" + shown.columns(single.node(), single.columns()) + ")" + single.ending();
          }
          What what = new What(single.sign(), single.verb(), PrivilegeSet.text(bits), ending);
          byUser
              .computeIfAbsent(single.user(), fresh -> new LinkedHashMap<>())
              .computeIfAbsent(what, fresh -> new TreeSet<>())
              .add(single.node());
        });
    Map<Map.Entry<What, Set<Integer>>, IntArrayList> lines = new LinkedHashMap<>();
    byUser.forEach(
        (user, whats) ->
            whats
                .entrySet()
                .forEach(
                    entry ->
                        lines
                            .computeIfAbsent(
                                Map.entry(entry.getKey(), entry.getValue()),
                                fresh -> new IntArrayList())
                            .add((int) user)));
    return laidOut(lines);
  }

  /** Columns of one node that change alike become one change of several columns. */
  private static Map<Single, Long> withColumnsTogether(Map<Single, Long> singles) {
    Map<List<Object>, BitSet> columnsOf = new LinkedHashMap<>();
    singles.forEach(
        (single, bits) -> {
          if (single.columns() != null) {
            columnsOf
                .computeIfAbsent(alike(single, bits), fresh -> new BitSet())
                .or(single.columns());
          }
        });
    Map<Single, Long> together = new LinkedHashMap<>();
    singles.forEach(
        (one, bits) -> {
          BitSet all = one.columns() == null ? null : columnsOf.get(alike(one, bits));
          together.put(
              new Single(one.user(), one.sign(), one.verb(), one.node(), all, one.ending()), bits);
        });
    return together;
  }

  private static List<Object> alike(Single one, long bits) {
    return List.of(one.user(), one.sign(), one.verb(), one.node(), one.ending(), bits);
  }

  private String laidOut(Map<Map.Entry<What, Set<Integer>>, IntArrayList> lines) {
    StringBuilder text = new StringBuilder();
    int left = LINES;
    int more = 0;
    Columns columns = new Columns(width);
    for (String sign : List.of("+", "-", "~")) {
      for (Map.Entry<Map.Entry<What, Set<Integer>>, IntArrayList> line : lines.entrySet()) {
        What what = line.getKey().getKey();
        if (!what.sign().equals(sign)) {
          continue;
        }
        if (left-- <= 0) {
          more++;
          continue;
        }
        boolean many = line.getValue().size() > 1;
        columns.line(
            tone(sign).of(sign),
            who(line.getValue()),
            (many ? what.verb() : singular(what.verb()))
                + " "
                + what.privileges()
                + (what.ending().startsWith("(") ? " " + what.ending() : "")
                + " on "
                + where(line.getKey().getValue())
                + (what.ending().startsWith("(") ? "" : what.ending()));
      }
    }
    text.append(columns.text());
    if (more > 0) {
      text.append("  and ").append(more).append(" more lines; --format json has all of them\n");
    }
    return text.toString();
  }

  static Tone tone(String sign) {
    return switch (sign) {
      case "+" -> Tone.GOOD;
      case "-" -> Tone.BAD;
      default -> Tone.PARTLY;
    };
  }

  private static String singular(String verb) {
    int blank = verb.indexOf(' ');
    return blank < 0 ? verb + "s" : verb.substring(0, blank) + "s" + verb.substring(blank);
  }

  private Single single(Change change) {
    String sign;
    String verb;
    String ending = "";
    if (change.isGain()) {
      sign = "+";
      verb = "gain";
      ending = change.is() == State.ON_REQUEST ? ", after switching a role on" : "";
    } else if (change.isLoss()) {
      sign = "-";
      verb = "lose";
      ending = change.is() == null ? "" : " (it is " + change.is().text() + " from then on)";
    } else if (change.was() == change.is()) {
      sign = change.canGrant() ? "+" : "-";
      verb = change.canGrant() ? "gain the right to grant" : "lose the right to grant";
    } else {
      sign = "~";
      verb = "see a change of";
      ending = ": " + word(change.was()) + " before, " + word(change.is()) + " after";
    }
    return new Single(change.user(), sign, verb, change.node(), change.columns(), ending);
  }

  private static String word(State state) {
    return state == null ? "nothing" : state.text();
  }

  private String who(IntArrayList users) {
    if (users.size() > NAMES) {
      for (int role : gap.outcome().grantees().toIntArray()) {
        if (isExactly(role, users)) {
          return users.size() + " members of " + shown.principal(role);
        }
      }
      for (int role = 1; role < after.principals().size(); role++) {
        if (isExactly(role, users)) {
          return users.size() + " members of " + shown.principal(role);
        }
      }
    }
    String names =
        users.intStream().limit(NAMES).mapToObj(shown::principal).collect(Collectors.joining(", "));
    return users.size() > NAMES ? names + " and " + (users.size() - NAMES) + " more" : names;
  }

  private boolean isExactly(int role, IntArrayList users) {
    if (after.principals().kind(role) != PrincipalKind.ROLE) {
      return false;
    }
    IntOpenHashSet below = usersBelow.computeIfAbsent(role, this::usersBelow);
    return below.size() == users.size() && below.containsAll(users);
  }

  private IntOpenHashSet usersBelow(int role) {
    IntOpenHashSet seen = new IntOpenHashSet();
    IntOpenHashSet users = new IntOpenHashSet();
    IntArrayList open = IntArrayList.of(role);
    for (Access access : List.of(gap.before(), after)) {
      open.add(role);
      seen.clear();
      while (!open.isEmpty()) {
        int at = open.popInt();
        for (int edge :
            at < access.principals().size()
                ? access.memberships().membersOf().run(at)
                : new int[0]) {
          int member = access.memberships().member(edge);
          if (seen.add(member)) {
            open.add(member);
            if (after.principals().isUser(member)) {
              users.add(member);
            }
          }
        }
      }
    }
    return users;
  }

  private String where(Set<Integer> nodes) {
    if (nodes.size() <= NAMES) {
      Map<String, List<String>> byKind = new LinkedHashMap<>();
      for (int node : nodes) {
        String kind = tree.kind(node).text();
        byKind.computeIfAbsent(kind, fresh -> new ArrayList<>()).add(shown.path(node));
      }
      List<String> parts = new ArrayList<>();
      byKind.forEach(
          (kind, paths) ->
              parts.add(kind + (paths.size() > 1 ? "s " : " ") + String.join(", ", paths)));
      return String.join(", ", parts);
    }
    Map<String, Integer> counts = new TreeMap<>();
    for (int node : nodes) {
      NodeKind kind = tree.kind(node);
      String in = kind.isObject() ? " in " + shown.path(tree.parent(node)) : "";
      counts.merge(kind.contractName() + "\0" + in, 1, Integer::sum);
    }
    List<String> parts = new ArrayList<>();
    counts.forEach(
        (key, count) -> {
          String[] split = key.split("\0", -1);
          parts.add(count + " " + split[0] + (count > 1 ? "s" : "") + split[1]);
        });
    return String.join(", ", parts);
  }

  /** How many users gain, and how many lose, for the first line. */
  public String summary() {
    Set<Integer> gaining = new TreeSet<>();
    Set<Integer> losing = new TreeSet<>();
    for (Change change : gap.effects()) {
      if (change.isGain()) {
        gaining.add(change.user());
      } else if (change.isLoss()) {
        losing.add(change.user());
      }
    }
    Set<Integer> seeing = new TreeSet<>();
    gap.sights().forEach(change -> seeing.add(change.user()));
    if (gaining.isEmpty() && losing.isEmpty() && seeing.isEmpty()) {
      return gap.effects().isEmpty() ? "nobody gains or loses anything" : "nobody gains or loses";
    }
    List<String> parts = new ArrayList<>();
    if (!gaining.isEmpty()) {
      parts.add(people(gaining.size()) + (gaining.size() == 1 ? " gains" : " gain"));
    }
    if (!losing.isEmpty()) {
      parts.add(people(losing.size()) + (losing.size() == 1 ? " loses" : " lose"));
    }
    if (!seeing.isEmpty()) {
      String verb = seeing.size() == 1 ? " sees" : " see";
      parts.add(people(seeing.size()) + verb + " other rows or values");
    }
    return String.join(", ", parts);
  }

  private static String people(int count) {
    return count == 1 ? "1 user" : count + " users";
  }
}
