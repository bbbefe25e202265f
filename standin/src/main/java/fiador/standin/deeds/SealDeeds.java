package fiador.standin.deeds;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Thing;

/** Statements that seal what is to open to nobody by a power. */
final class SealDeeds {
  private SealDeeds() {}

  /**
   * Seals a container. Whoever does it stays in, has a secret that nobody else ever set, and no
   * view elsewhere shows what is in it: else an administrator could have come before.
   */
  static void seal(Doing doing, Thing container) throws RefusedException, MistakeException {
    boolean seals =
        doing.house().gates().stream()
            .anyMatch(gate -> gate.sealed() && gate.container().equals(container.kind()));
    if (!seals) {
      throw new MistakeException("a " + container.kind() + " is not sealed here");
    }
    doing.needDisposal(container);
    if (!doing.again()) {
      if (!doing.session().user().keepsSecret()) {
        throw new MistakeException(
            "somebody else set the secret of "
                + doing.session().user()
                + " and could come in by it; set one of your own first");
      }
      Thing view = doing.judge().seals().viewFromOutside(container);
      if (view != null) {
        throw new MistakeException(
            view
                + " shows what is in "
                + container
                + "; drop it, and make it anew once that is"
                + " sealed");
      }
    }
    container.seal(true);
    RefusedException out =
        doing.again() ? null : doing.judge().seals().shut(doing.session(), container);
    if (out != null) {
      container.seal(false);
      throw new MistakeException(
          doing.session().acting()
              + " would be out once it is sealed: own "
              + container
              + ", or be given "
              + out.privilege()
              + " on it");
    }
  }

  /** Takes the seal away; only whoever is in can. */
  static void unseal(Doing doing, Thing container) throws RefusedException, MistakeException {
    doing.needDisposal(container);
    if (!container.sealed()) {
      throw new MistakeException(container + " is not sealed");
    }
    container.seal(false);
  }
}
