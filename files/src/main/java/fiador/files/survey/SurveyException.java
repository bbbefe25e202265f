package fiador.files.survey;

/** A survey file that cannot be used. The message names file and line and says what to do. */
public final class SurveyException extends Exception {
  SurveyException(String message) {
    super(message);
  }
}
