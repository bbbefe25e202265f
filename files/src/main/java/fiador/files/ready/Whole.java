package fiador.files.ready;

import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import java.io.IOException;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;

/** What a ready form is made of. */
interface Whole {
  /** What it is called in notes. */
  String called();

  /** The file it is in; who may write that is trusted with the ready form too. */
  Path keeper();

  /**
   * Looks whether a ready form is of what is there now.
   *
   * @throws UnusableException when it is not
   */
  void check(ReadyFile form) throws UnusableException, IOException;

  /** Reads all of it. */
  Read read() throws SurveyException, IOException;

  /**
   * What was read.
   *
   * @param label tells, once a ready form is to be made, how it is marked
   */
  record Read(Access access, Labelling label) {}

  /** Marks a ready form. */
  interface Labelling {
    /** The marks; null where what was read may no longer be what is there. */
    @Nullable Label now() throws IOException;
  }

  /**
   * What tells whether a ready form belongs to something.
   *
   * @param digest a SHA-256
   */
  record Label(Stamp stamp, byte[] digest) {}
}
