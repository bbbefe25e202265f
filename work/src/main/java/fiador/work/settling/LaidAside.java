package fiador.work.settling;

import fiador.changes.outcome.Done;
import fiador.changes.steps.Step;
import fiador.files.journal.Journal;
import fiador.grants.Access;
import java.util.List;

/** What a run that was stopped half-way, and is not followed, leaves behind. */
final class LaidAside {
  private LaidAside() {}

  /**
   * What lifts the denials that it had made for a moment.
   *
   * @param now the server as it is
   * @param planned what is carried out in any case
   */
  static List<Step> lifts(Journal.Contents run, Access now, List<Step> planned) {
    boolean over = run.finished() || run.refused();
    return over ? List.of() : new Done(now).lifts(run.steps(), planned);
  }

  /**
   * That, as a sentence.
   *
   * @param denials how many, one at least
   * @param lifted whether they are lifted now
   */
  static String inWords(int denials, boolean lifted) {
    boolean one = denials == 1;
    String left =
        "the run that is laid aside had made "
            + (one ? "1 denial" : denials + " denials")
            + " for a moment, so that nothing opens meanwhile; ";
    return lifted
        ? left + (one ? "it is" : "they are") + " lifted at the end"
        : left
            + "an approved gap is carried out as it stands: settle --undo lifts "
            + (one ? "it" : "them");
  }
}
