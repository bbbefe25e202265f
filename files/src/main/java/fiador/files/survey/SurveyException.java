package fiador.files.survey;

import fiador.refusal.Refusal;

/** A survey file that cannot be used. The message names file and line and says what to do. */
public final class SurveyException extends Refusal {
  SurveyException(String message) {
    super(message);
  }
}
