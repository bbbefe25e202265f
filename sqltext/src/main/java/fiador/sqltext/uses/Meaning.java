package fiador.sqltext.uses;

import fiador.estate.Privilege;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What a statement needs.
 *
 * @param uses what it needs
 * @param understood whether that is all
 */
public record Meaning(List<Needed> uses, boolean understood) {

  /** A statement and the database it was sent to. */
  public record Asked(String text, String database) {}

  /** A privilege on a thing, or a column of it. */
  public record Needed(Privilege privilege, int node, int column) {}

  /** Keeps so many, of those that are not too long, and then begins anew. */
  static final class Recent {
    private static final int KEPT = 4000;
    private static final int LONGEST = 4000;

    private final Map<Asked, Meaning> known = new HashMap<>();

    Meaning get(Asked asked) {
      return known.get(asked);
    }

    void put(Asked asked, Meaning meaning) {
      if (known.size() == KEPT) {
        known.clear();
      }
      if (asked.text().length() <= LONGEST) {
        known.put(asked, meaning);
      }
    }
  }
}
