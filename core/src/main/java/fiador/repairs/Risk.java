package fiador.repairs;

import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.findings.check.Facts;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.Int2LongOpenHashMap;

/** How much comes with a grant or a role: a figure to put things in order by, no probability. */
final class Risk {
  private static final long WRITES =
      PrivilegeSet.of(
          Privilege.INSERT,
          Privilege.UPDATE,
          Privilege.DELETE,
          Privilege.TRUNCATE,
          Privilege.DROP,
          Privilege.ALTER,
          Privilege.CREATE);

  private final Facts facts;
  private final Int2LongOpenHashMap ofRole = new Int2LongOpenHashMap();

  Risk(Facts facts) {
    this.facts = facts;
  }

  /** Of some privileges of a grant, for one user. */
  long ofGrant(int row, long privileges) {
    Grants grants = facts.access.grants();
    long bits = grants.terms(row).privileges() & privileges;
    long grantable = grants.terms(row).grantable() & privileges;
    long reached = grants.terms(row).covers() == 0 ? 1 : facts.tree.size();
    return reached
        * (Long.bitCount(bits) + 2L * Long.bitCount(bits & WRITES) + 2L * Long.bitCount(grantable));
  }

  /** Of all that comes with a role, for one user. */
  long ofRole(int role) {
    if (!ofRole.containsKey(role)) {
      long sum = 0;
      for (int held : facts.reach.up(role)) {
        for (int row : facts.access.grants().byGrantee().run(held)) {
          sum += ofGrant(row, -1L);
        }
      }
      ofRole.put(role, sum);
    }
    return ofRole.get(role);
  }

  /** How many users are below a principal, at least one. */
  long users(int principal) {
    return Math.max(1, facts.usersOf(principal).size());
  }
}
