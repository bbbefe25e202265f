/**
 * The ready form of a survey: a file beside it from which a question reads no more than it needs,
 * whatever the size of the estate. {@link fiador.files.ready.ReadySurveys} opens a survey in the
 * form it has; {@code ReadyWriter} and {@code ReadyFile} know what the file looks like; {@code
 * Stamp} tells whether it still belongs to the survey.
 *
 * <p>The survey is what counts. A ready form that is stale, cut off, of something else or damaged
 * is not believed, wherever that shows: what it was made of is read instead.
 */
@NullMarked
package fiador.files.ready;

import org.jspecify.annotations.NullMarked;
