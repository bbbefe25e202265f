package fiador.work.settling;

import fiador.changes.steps.Step;
import java.util.List;

/** Is told how far a settlement has come. */
public interface Listener {
  /** What could not be looked at while the server was surveyed, one sentence. */
  void note(String note);

  /** What a step of an older run is about was dropped since. */
  void isGone(Step step, String why);

  /** So many steps are carried out now. */
  void begins(int steps);

  /**
   * Some are done.
   *
   * @param sql what was sent, as it is shown
   */
  void done(List<Step> some, String sql);

  /** Somebody holds what is needed; it is tried again. */
  void waits(String sql);

  /** Nothing more is carried out, whatever came of it. */
  void ends();
}
