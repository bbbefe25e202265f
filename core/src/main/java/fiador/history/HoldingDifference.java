package fiador.history;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.grants.Access;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * What people held in one survey and not, or not alike, in another; each as it was at the time of
 * its survey.
 */
public final class HoldingDifference {
  private final Access earlier;
  private final Access later;
  private final Alike back;

  /**
   * A holding that is not what it was.
   *
   * @param was as it was, in ids of the earlier survey; null where there was none
   * @param is as it is, in ids of the later survey; null where there is none any more
   */
  public record Turn(Holding was, Holding is) {
    /** Whether something works now that did not. */
    public boolean isGain() {
      return is != null && is.state().works() && (was == null || !was.state().works());
    }

    /** Whether something worked that does no longer. */
    public boolean isLoss() {
      return was != null && was.state().works() && (is == null || !is.state().works());
    }
  }

  /** Between two surveys of one server. Cost: both. */
  public HoldingDifference(Access earlier, Access later) {
    this.earlier = earlier;
    this.later = later;
    this.back = new Alike(later, earlier);
  }

  private static Clock then(Access access) {
    Instant taken = access.about().taken();
    return Clock.fixed(taken, ZoneOffset.UTC);
  }

  /**
   * What one user, or role, came to hold or lost.
   *
   * @param was its id in the earlier survey, or -1
   * @param is its id in the later survey, or -1
   */
  public List<Turn> ofPrincipal(int was, int is) {
    return compared(
        was < 0 ? List.of() : new Holdings(earlier, then(earlier), false).of(was),
        is < 0 ? List.of() : new Holdings(later, then(later), false).of(is));
  }

  /**
   * As the other, where what was given on these things changed, and nothing that matters elsewhere.
   * Cost: what the user has on them.
   *
   * @param things their numbers, the same in both surveys; none for everything
   */
  public List<Turn> ofPrincipal(int was, int is, Set<Integer> things) {
    return things.isEmpty()
        ? ofPrincipal(was, is)
        : compared(on(earlier, was, things), on(later, is, things));
  }

  private static List<Holding> on(Access access, int user, Set<Integer> things) {
    List<Holding> rows = new ArrayList<>();
    Holdings holdings = new Holdings(access, then(access), false);
    for (int thing : user < 0 ? Set.<Integer>of() : new TreeSet<>(things)) {
      rows.addAll(holdings.at(user, thing));
    }
    return rows;
  }

  /** What everybody came to hold or lost on one node; parameters as for principals. */
  public List<Turn> onNode(int was, int is) {
    return compared(
        was < 0 ? List.of() : new Holders(earlier, then(earlier)).of(was),
        is < 0 ? List.of() : new Holders(later, then(later)).of(is));
  }

  /** Who holds what on what, in ids of the earlier survey where it has them, else below zero. */
  private record Key(int user, long privilege, int node) {}

  private record Part(Key key, List<String> columns) {}

  private Part part(Holding row, boolean isLater) {
    int user = isLater ? back.principal(row.user()) : row.user();
    int node = isLater ? back.node(row.node()) : row.node();
    Key key =
        new Key(
            user < 0 ? -1 - row.user() : user,
            row.privilege().bit(),
            node < 0 ? -1 - row.node() : node);
    return new Part(key, columns(isLater ? later : earlier, row));
  }

  private static List<String> columns(Access access, Holding row) {
    BitSet columns = row.columns();
    return columns == null
        ? List.of()
        : columns.stream().mapToObj(at -> access.tree().column(row.node(), at)).sorted().toList();
  }

  /** One row for each part: the best state, and whether it can be granted on in any. */
  private Map<Part, Holding> parts(List<Holding> rows, boolean isLater) {
    Map<Part, Holding> parts = new LinkedHashMap<>();
    for (Holding row : rows) {
      parts.merge(
          part(row, isLater),
          row,
          (best, worse) ->
              new Holding(
                  best.user(),
                  best.privilege(),
                  best.node(),
                  best.state(),
                  best.grantable() || worse.grantable(),
                  best.columns()));
    }
    return parts;
  }

  private List<Turn> compared(List<Holding> was, List<Holding> is) {
    Map<Part, Holding> old = parts(was, false);
    Map<Part, Holding> fresh = parts(is, true);
    old.entrySet()
        .removeIf(
            each -> {
              Holding now = fresh.get(each.getKey());
              boolean same =
                  now != null
                      && now.state() == each.getValue().state()
                      && now.grantable() == each.getValue().grantable();
              return same && fresh.remove(each.getKey()) != null;
            });
    // what is held on other columns than before is one turn, not a gain and a loss
    Map<Key, Part> rest = new LinkedHashMap<>();
    old.keySet().forEach(part -> rest.put(part.key(), part));
    List<Turn> turns = new ArrayList<>();
    fresh.forEach(
        (part, row) -> {
          Part before = old.containsKey(part) ? part : rest.get(part.key());
          turns.add(new Turn(before == null ? null : old.remove(before), row));
        });
    old.values().forEach(row -> turns.add(new Turn(row, null)));
    return turns;
  }
}
