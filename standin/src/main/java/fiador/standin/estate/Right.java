package fiador.standin.estate;

import org.jspecify.annotations.Nullable;

/**
 * A privilege that was given or refused.
 *
 * @param refused whether it was refused
 * @param to to whom
 * @param privilege what
 * @param on on what
 * @param column on which column; null for the whole
 */
public record Right(
    boolean refused, Principal to, String privilege, Thing on, @Nullable String column) {}
