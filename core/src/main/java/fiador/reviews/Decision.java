package fiador.reviews;

import java.time.Instant;

/**
 * What was decided on a line.
 *
 * @param remark why; may be empty
 * @param by in whose name
 * @param at when it was recorded
 */
public record Decision(Answer answer, String remark, String by, Instant at) {}
