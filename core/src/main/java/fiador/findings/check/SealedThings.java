package fiador.findings.check;

import fiador.changes.Seals;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.grants.Grants;
import fiador.policies.Sealing;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;

/** Which roles open what the charter's seals close. */
public final class SealedThings {
  private final Facts facts;
  private IntOpenHashSet openers;

  public SealedThings(Facts facts) {
    this.facts = facts;
  }

  /** Whether a role opens something sealed. */
  public boolean opens(int role) {
    if (openers == null) {
      openers = new IntOpenHashSet();
      Grants grants = facts.access.grants();
      Sealing sealing = new Sealing(facts.access, facts.clock);
      for (Seal seal : facts.expected.seals()) {
        for (int node : sealing.inside(Seals.found(facts.access, seal))) {
          for (int row : grants.byNode().run(node)) {
            openers.add(grants.grantee(row));
          }
        }
      }
    }
    return facts.reach.up(role).intStream().anyMatch(openers::contains);
  }
}
