package fiador.reviews;

import fiador.changes.WantedSight.Labelled;
import fiador.changes.WantedSight.Seal;
import fiador.grants.Grants;
import fiador.grants.Lookup;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;

/** What the charter's seals close, and which roles open it. */
final class SealedThings {
  private final Facts facts;
  private IntOpenHashSet openers;

  SealedThings(Facts facts) {
    this.facts = facts;
  }

  /** The sealed things of a seal that are there, and all they hold. */
  IntArrayList inside(Seal seal) {
    IntArrayList found = new IntArrayList();
    for (Labelled thing : seal.on()) {
      Lookup.Found on = new Lookup(facts.access).node(thing.name(), 0, false);
      if (on.ok()) {
        found.add(on.id());
      }
    }
    for (int i = 0; i < found.size(); i++) {
      found.addElements(found.size(), facts.tree.children().run(found.getInt(i)));
    }
    return found;
  }

  /** Whom a seal stays open to. */
  IntOpenHashSet openTo(Seal seal) {
    IntOpenHashSet open = new IntOpenHashSet();
    for (String name : seal.openTo()) {
      int id = facts.named(name);
      if (id >= 0) {
        open.addAll(facts.reach.below(id));
      }
    }
    return open;
  }

  /** Whether a role opens something sealed. */
  boolean opens(int role) {
    if (openers == null) {
      openers = new IntOpenHashSet();
      Grants grants = facts.access.grants();
      for (Seal seal : facts.expected.seals()) {
        for (int node : inside(seal)) {
          for (int row : grants.byNode().run(node)) {
            openers.add(grants.grantee(row));
          }
        }
      }
    }
    return facts.reach.up(role).intStream().anyMatch(openers::contains);
  }
}
