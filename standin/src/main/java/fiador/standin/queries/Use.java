package fiador.standin.queries;

import fiador.standin.estate.Thing;

/**
 * What a statement does with one thing.
 *
 * @param privilege what it takes
 * @param thing with what
 */
public record Use(String privilege, Thing thing) {}
