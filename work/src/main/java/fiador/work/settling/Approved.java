package fiador.work.settling;

import fiador.changes.Gap;
import fiador.changes.outcome.PeopleEffects;
import fiador.files.journal.SavedGap;
import fiador.refusal.BadInput;
import fiador.servers.jdbc.ServerException;
import fiador.work.charters.Surveys;
import java.util.ArrayList;
import java.util.List;

/**
 * A saved gap that somebody approved: what is settled has to be that and nothing else.
 *
 * @param gap as it was saved
 * @param by who approved it, as whoever settles says
 */
public record Approved(SavedGap gap, String by) {
  private static final int NAMED = 3;

  /** A gap, ready to be saved. */
  public static SavedGap saved(Task task, Gap gap, String by) throws ServerException {
    return new SavedGap(
        task.entry().name(),
        task.kind().identity(Surveys.login(task.entry())),
        by,
        task.clock().instant().toString(),
        task.kind().dialect().shown(gap.plan().steps()),
        effects(gap));
  }

  /** What it does to people, each line alike as long as it does the same. */
  private static List<String> effects(Gap gap) {
    List<String> lines = new ArrayList<>();
    for (PeopleEffects.Change change : gap.effects()) {
      String columns = change.columns() == null ? "" : " columns " + change.columns();
      lines.add(
          "%s: %s on %s%s, %s -> %s%s"
              .formatted(
                  gap.outcome().after().principals().name(change.user()),
                  change.privilege().text(),
                  gap.before().tree().path(change.node()),
                  columns,
                  change.was() == null ? "nothing" : change.was().text(),
                  change.is() == null ? "nothing" : change.is().text(),
                  change.couldGrant() == change.canGrant()
                      ? ""
                      : change.canGrant() ? ", may grant it" : ", may not grant it"));
    }
    gap.sights()
        .forEach(
            change ->
                lines.add(
                    "%s: rows and values of %s change"
                        .formatted(
                            gap.outcome().after().principals().name(change.user()),
                            gap.before().tree().path(change.table()))));
    return lines;
  }

  /** How the ledger keeps that this was settled. */
  public String inWords() {
    return "settle (approved by " + by + ", gap " + shortDigest() + ")";
  }

  /** The beginning of the digest, enough to tell one from another. */
  public String shortDigest() {
    return gap.digest().substring(0, 12);
  }

  /**
   * Sees to it that a gap is the approved one.
   *
   * @throws BadInput if the charter or the server has changed since; nothing was run then
   */
  public void check(Task task, Gap now) throws BadInput, ServerException {
    SavedGap is = saved(task, now, gap.by());
    if (!is.server().equals(gap.server()) || !is.identity().equals(gap.identity())) {
      throw new BadInput(
          "the approved gap is of " + gap.server() + ", another server than " + is.server());
    }
    differ("statements", gap.statements(), is.statements());
    differ("effects on people", gap.effects(), is.effects());
  }

  private void differ(String what, List<String> approved, List<String> now) throws BadInput {
    if (approved.equals(now)) {
      return;
    }
    List<String> fresh = new ArrayList<>(now);
    fresh.removeAll(approved);
    List<String> gone = new ArrayList<>(approved);
    gone.removeAll(now);
    throw new BadInput(
        "nothing was run: the charter or the server has changed since gap "
            + shortDigest()
            + " was saved. Its "
            + what
            + " would be others"
            + some("; new: ", fresh)
            + some("; no longer: ", gone)
            + (fresh.isEmpty() && gone.isEmpty() ? ", in another order" : "")
            + ". Save it again and have it approved");
  }

  private static String some(String label, List<String> lines) {
    if (lines.isEmpty()) {
      return "";
    }
    String first = String.join(" | ", lines.stream().limit(NAMED).toList());
    return label + first + (lines.size() > NAMED ? " and " + (lines.size() - NAMED) + " more" : "");
  }
}
