package fiador.policies;

import fiador.grants.Access;
import fiador.grants.Sights.Kept;
import fiador.grants.rules.HouseRules;
import java.util.HashMap;
import java.util.Map;

/**
 * Views that stand under the names of the tables they show, while the tables stand aside under
 * names of their own: readers go on using the name they know. To a charter that name goes on
 * meaning the table. Cost: what is kept of policies.
 */
public final class UnderName {
  private static final String BASE = "_base";

  private UnderName() {}

  /** What a table is called whose name a view has taken. */
  public static String aside(HouseRules rules, String name) {
    return ended(rules, name, BASE);
  }

  /** A name with an ending in the letters that the server keeps for one without quotes. */
  public static String ended(HouseRules rules, String name, String ending) {
    boolean upper = rules.fold("a").equals("A");
    boolean folded = upper && name.equals(rules.fold(name));
    return rules.names().with(name, folded ? rules.fold(ending) : ending);
  }

  /** The tables that stand aside, by the views that have their names. */
  public static Map<Integer, Integer> tables(Access access) {
    Map<Integer, Integer> found = new HashMap<>();
    access
        .sights()
        .kept()
        .forEach(
            (view, kept) -> {
              if (is(access, view, kept)) {
                found.put(view, kept.table());
              }
            });
    return found;
  }

  /** Whether what was made from policies is a view under the name of its table. */
  public static boolean is(Access access, int view, Kept kept) {
    int table = kept.table();
    return view != table
        && access.tree().parent(view) == access.tree().parent(table)
        && access.tree().name(table).equals(aside(access.rules(), access.tree().name(view)));
  }
}
