package fiador.grants;

import fiador.grants.Sights.Attribute;
import fiador.grants.Sights.Filter;
import fiador.grants.Sights.Kept;
import fiador.grants.Sights.LookupTable;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Collects what decides on rows and columns. */
public final class SightsBuilder {
  private final Map<Integer, Kept> kept = new LinkedHashMap<>();
  private final Map<Integer, Filter> filters = new LinkedHashMap<>();
  // keys are lists: the first hash of a record costs a short answer more than the rest of it
  private final Map<List<Object>, List<String>> attributes = new LinkedHashMap<>();
  private final List<LookupTable> lookups = new ArrayList<>();
  private final Map<Integer, Integer> guards = new LinkedHashMap<>();

  private final Map<Integer, Sights.Doubt> doubts = new LinkedHashMap<>();
  private final List<Sights.Seal> seals = new ArrayList<>();

  private final Map<Integer, Sights.Fills> fills = new LinkedHashMap<>();

  SightsBuilder() {}

  /** Adds what was made from policies, on a view or table. */
  public void kept(int node, Kept made) {
    kept.put(node, made);
  }

  /** Adds how the server filters a table. */
  public void filter(int table, Filter filter) {
    filters.put(table, filter);
  }

  /** Adds a value of a user's attribute; the database's node, or 0. */
  public void attribute(int database, String user, String name, String value) {
    attributes
        .computeIfAbsent(List.of(database, user, name), fresh -> new ArrayList<>())
        .add(value);
  }

  /** Adds a lookup table. */
  public void lookup(LookupTable lookup) {
    lookups.add(lookup);
  }

  /** Says which schema is the guarded one of a database, or of the server as a whole, 0. */
  public void guard(int database, int schema) {
    guards.put(database, schema);
  }

  /** Says why the guarded schema of a database, or of the server as a whole, 0, is not believed. */
  public void doubt(int database, Sights.Doubt doubt) {
    doubts.put(database, doubt);
  }

  /** Adds what a charter seals. */
  public void seal(Sights.Seal seal) {
    seals.add(seal);
  }

  /** Adds how a table fills its columns. */
  public void fills(int table, Sights.Fills how) {
    fills.put(table, how);
  }

  Sights build() {
    List<Attribute> all = new ArrayList<>();
    attributes.forEach(
        (key, values) ->
            all.add(
                new Attribute(
                    (int) key.get(0),
                    (String) key.get(1),
                    (String) key.get(2),
                    List.copyOf(values))));
    return new Sights(
        kept,
        filters,
        List.copyOf(all),
        List.copyOf(lookups),
        guards,
        doubts,
        List.copyOf(seals),
        fills);
  }
}
