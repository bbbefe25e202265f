package fiador.report.pictures;

import fiador.changes.outcome.PeopleEffects.Change;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.report.pictures.Figure.Manner;
import fiador.report.shown.Shown;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** What a change gives people and takes from them. */
public final class GapFigure {
  private GapFigure() {}

  /** A person and a thing. */
  private record Pair(int user, int node, boolean gain) implements Comparable<Pair> {
    @Override
    public int compareTo(Pair other) {
      int byUser = Integer.compare(user, other.user);
      int byNode = byUser == 0 ? Integer.compare(node, other.node) : byUser;
      return byNode == 0 ? Boolean.compare(gain, other.gain) : byNode;
    }
  }

  /**
   * The figure. Cost: the changes.
   *
   * @param after the estate as it will be, in which everybody who is new has a name
   * @param changes what comes and goes
   */
  public static Figure of(Access after, List<Change> changes, Instant now) {
    Shown shown = Shown.brief(after);
    Cast cast = new Cast(after, shown);
    Map<Pair, Map<String, Long>> pairs = new TreeMap<>();
    for (Change change : changes) {
      if (change.isGain() || change.isLoss()) {
        String columns =
            change.columns() == null
                ? ""
                : " (" + shown.columns(change.node(), change.columns()) + ")";
        pairs
            .computeIfAbsent(
                new Pair(change.user(), change.node(), change.isGain()), fresh -> new TreeMap<>())
            .merge(columns, change.privilege().bit(), (one, other) -> one | other);
      }
    }
    pairs.forEach(
        (pair, much) -> {
          List<String> parts = new ArrayList<>();
          much.forEach((columns, bits) -> parts.add(PrivilegeSet.text(bits) + columns));
          cast.line(
              cast.principal(pair.user()),
              cast.thing(pair.node()),
              pair.gain() ? Manner.COMES : Manner.GOES,
              (pair.gain() ? "+ " : "− ") + String.join("; ", parts));
        });
    return cast.figure("What the change gives and takes", shown.origin(now));
  }
}
