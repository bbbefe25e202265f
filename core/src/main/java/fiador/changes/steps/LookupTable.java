package fiador.changes.steps;

import fiador.policies.SafeColumn;

/**
 * A lookup table as policies read it: what it says of the user who asks.
 *
 * @param key the column with names of users
 * @param value the column with what holds for them
 */
public record LookupTable(String name, On table, SafeColumn key, SafeColumn value) {}
