package fiador.effects;

import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Memberships;
import it.unimi.dsi.fastutil.longs.LongArrays;

/** All users, for questions about everybody. */
public final class Everyone {
  private Everyone() {}

  /**
   * All users, those with the same roles near each other, so that what was read for one is still in
   * the cache for the next. Cost: users, times the logarithm of their number.
   */
  public static int[] inOrder(Access access) {
    Principals principals = access.principals();
    Memberships memberships = access.memberships();
    long[] keys = new long[principals.size()];
    int users = 0;
    for (int id = 0; id < keys.length; id++) {
      if (principals.isUser(id)) {
        int place = memberships.rolesOf().from(id);
        boolean any = place < memberships.rolesOf().to(id);
        long role = any ? memberships.role(memberships.rolesOf().row(place)) : 0;
        keys[users++] = role << 32 | id;
      }
    }
    LongArrays.quickSort(keys, 0, users);
    int[] ids = new int[users];
    for (int i = 0; i < users; i++) {
      ids[i] = (int) keys[i];
    }
    return ids;
  }
}
