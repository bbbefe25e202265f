/**
 * The survey file: an estate and who was given what on it, as JSON Lines. The format is documented
 * in {@code docs/survey.md}; {@link fiador.files.survey.SurveyWriter} and {@link
 * fiador.files.survey.SurveyReader} are each other's inverse. The reader hands each line to those
 * that know its kind: {@code EstateLines}, {@code GrantLines}, {@code ViewLines}, {@code
 * SightLines}.
 */
package fiador.files.survey;
