package fiador.standin.deeds;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.RefusedException;

/** A statement that was read, and can be carried out. */
@FunctionalInterface
public interface Deed {
  /**
   * Does it, whole or not at all.
   *
   * @throws RefusedException when whoever asks may not
   * @throws MistakeException when it cannot be done
   */
  void carryOut(Doing doing) throws RefusedException, MistakeException;
}
