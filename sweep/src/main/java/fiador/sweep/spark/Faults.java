package fiador.sweep.spark;

import fiador.files.survey.SurveyException;
import java.io.IOException;

/** What is told of work that came to nothing, so that the rest goes on. */
final class Faults {
  private Faults() {}

  /** Why it came to nothing. */
  static String why(Throwable fault) {
    if (fault instanceof SurveyException) {
      return String.valueOf(fault.getMessage());
    } else if (fault instanceof IOException) {
      return "reading or writing failed: " + fault.getMessage();
    } else if (fault instanceof OutOfMemoryError) {
      return "there is not enough memory for it; --memory gives more";
    }
    return "a fault of the program itself: " + fault;
  }
}
