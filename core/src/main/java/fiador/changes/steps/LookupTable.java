package fiador.changes.steps;

import fiador.grants.LookupKey;
import fiador.policies.SafeColumn;

/**
 * A lookup table as policies read it: what it says of the user who asks.
 *
 * @param key the column with what the user is found by
 * @param keys what stands in it
 * @param value the column with what holds for them
 */
public record LookupTable(String name, On table, SafeColumn key, LookupKey keys, SafeColumn value) {
  /** Journals from before there were others say nothing of it. */
  public LookupTable {
    keys = keys == null ? LookupKey.USER : keys;
  }
}
