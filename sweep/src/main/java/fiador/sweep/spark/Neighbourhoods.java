package fiador.sweep.spark;

import fiador.sweep.spark.ArrivalTask.Member;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;

/**
 * Which servers have to be at hand to say who comes to which. Whoever may make foreign tables on
 * one server can lead to all others; that must not put all surveys into the memory of one task.
 */
final class Neighbourhoods {
  private final List<Member> members;
  private final long together;
  private final List<List<Integer>> leadsTo = new ArrayList<>();
  private final List<List<Integer>> ledFrom = new ArrayList<>();
  private final Map<Integer, BitSet> onward = new HashMap<>();

  /**
   * Those of some servers. Cost: their addresses.
   *
   * @param together how much, in bytes of surveys, may be at hand at once for the sake of what is
   *     not certain without it
   */
  Neighbourhoods(List<Member> members, long together) {
    this.members = members;
    this.together = together;
    Map<String, List<Integer>> at = new HashMap<>();
    for (int one = 0; one < members.size(); one++) {
      leadsTo.add(new ArrayList<>());
      ledFrom.add(new ArrayList<>());
      for (String address : new HashSet<>(members.get(one).state().addresses())) {
        at.computeIfAbsent(address, none -> new ArrayList<>()).add(one);
      }
    }
    for (int one = 0; one < members.size(); one++) {
      for (String lead : new HashSet<>(members.get(one).state().leads())) {
        for (int other : at.getOrDefault(lead, List.of())) {
          leadsTo.get(one).add(other);
          ledFrom.get(other).add(one);
        }
      }
    }
  }

  /**
   * Some that are worked out at once.
   *
   * @param targets to which somebody may come
   * @param members all that have to be at hand, the targets among them
   */
  record Neighbourhood(List<Member> targets, List<Member> members) {}

  /**
   * All of them; a server to which nothing leads is in none as a target. Small groups of servers
   * that lead to each other are worked out in one go. Of a large group each server is worked out
   * with those that lead to it, over others too, and as far as there is room with those to which
   * these lead; where a table is read together with one that is left out, or is itself there, it is
   * not certain whether rows come.
   */
  List<Neighbourhood> all() {
    List<Neighbourhood> all = new ArrayList<>();
    BitSet done = new BitSet();
    for (int one = done.nextClearBit(0); one < members.size(); one = done.nextClearBit(one)) {
      BitSet group = reached(one, List.of(leadsTo, ledFrom));
      done.or(group);
      List<Integer> targets =
          group.stream().filter(each -> !ledFrom.get(each).isEmpty()).boxed().toList();
      if (hasRoom(group)) {
        all.add(of(targets, group));
        continue;
      }
      for (int target : targets) {
        all.add(of(List.of(target), around(target)));
      }
    }
    return all.stream().filter(each -> !each.targets().isEmpty()).toList();
  }

  private BitSet around(int target) {
    BitSet needed = reached(target, List.of(ledFrom));
    BitSet more = (BitSet) needed.clone();
    needed.stream().forEach(each -> more.or(onward(each)));
    return hasRoom(more) ? more : needed;
  }

  /** Whoever leads to many is asked for with each of them. */
  private BitSet onward(int from) {
    return onward.computeIfAbsent(from, fresh -> reached(from, List.of(leadsTo)));
  }

  private BitSet reached(int from, Collection<List<List<Integer>>> along) {
    BitSet found = new BitSet();
    found.set(from);
    Deque<Integer> open = new ArrayDeque<>(List.of(from));
    while (!open.isEmpty()) {
      int at = open.pop();
      for (List<List<Integer>> edges : along) {
        for (int next : edges.get(at)) {
          if (!found.get(next)) {
            found.set(next);
            open.push(next);
          }
        }
      }
    }
    return found;
  }

  /** Stops adding up where it is too much: a group may be all there are. */
  private boolean hasRoom(BitSet group) {
    long weight = 0;
    for (int at = group.nextSetBit(0);
        at >= 0 && weight <= together;
        at = group.nextSetBit(at + 1)) {
      weight += members.get(at).survey().weight();
    }
    return weight <= together;
  }

  private Neighbourhood of(List<Integer> targets, BitSet group) {
    return new Neighbourhood(
        targets.stream().map(members::get).toList(),
        group.stream().mapToObj(members::get).toList());
  }
}
