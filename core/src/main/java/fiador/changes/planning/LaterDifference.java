package fiador.changes.planning;

import fiador.changes.planning.Demands.LaterKey;
import fiador.changes.steps.GrantLater;
import fiador.changes.steps.Places;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Governed;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Extent;
import fiador.grants.LaterGrant;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;

/** What is to be given and taken of grants on what will be created. */
final class LaterDifference {
  private final Access access;
  private final Tree tree;
  private final Principals people;
  private final Governed governed;
  private final Collection<Step> give;
  private final Collection<Step> take;

  /** Parameters as for {@link GrantDifference}. */
  LaterDifference(Access access, Governed governed, Collection<Step> give, Collection<Step> take) {
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
    this.governed = governed;
    this.give = give;
    this.take = take;
  }

  /**
   * Adds what has to be given and taken so that this is there and no more.
   *
   * @param ended what goes, governed or not
   */
  void compare(Map<LaterKey, Extent> wanted, Map<LaterKey, Extent> ended) {
    Map<LaterKey, Extent> actual = new LinkedHashMap<>();
    for (LaterGrant later : access.later()) {
      for (LaterGrant.Given given : later.given()) {
        if (later.creator() >= 0 && !(later.replaces() && isDefault(later, given))) {
          LaterKey key =
              new LaterKey(
                  people.name(later.creator()),
                  later.in(),
                  later.kind(),
                  people.name(given.grantee()));
          actual.merge(key, new Extent(given.privileges(), given.grantable()), Extent::and);
        }
      }
    }
    Set<LaterKey> said = new LinkedHashSet<>(wanted.keySet());
    said.addAll(ended.keySet());
    openToAll(said, actual);
    wanted.forEach(
        (key, much) -> {
          long missing = much.beyond(actual.getOrDefault(key, Extent.NONE));
          for (boolean option : new boolean[] {false, true}) {
            long part = option ? missing & much.grantable() : missing & ~much.grantable();
            if (part != 0) {
              give.add(
                  new GrantLater(
                      key.creator(),
                      Places.on(tree, key.container()),
                      key.kind(),
                      part,
                      key.grantee(),
                      option));
            }
          }
        });
    actual.forEach(
        (key, much) -> {
          int grantee = people.named(key.grantee());
          boolean decided = governed.grant(grantee, key.container());
          long over =
              governed.canEnd(grantee) ? ended.getOrDefault(key, Extent.NONE).privileges() : 0;
          long surplus =
              much.privileges()
                  & ~wanted.getOrDefault(key, Extent.NONE).privileges()
                  & (decided ? -1 : over);
          if (surplus != 0) {
            take.add(
                new RevokeLater(
                    key.creator(),
                    Places.on(tree, key.container()),
                    key.kind(),
                    surplus,
                    key.grantee(),
                    (much.grantable() & surplus) != 0));
          }
        });
  }

  /** What replaces the built-in defaults repeats them: the creator's own rights. */
  private static boolean isDefault(LaterGrant later, LaterGrant.Given given) {
    return given.grantee() == later.creator();
  }

  /**
   * What everybody gets without a word about it on the routines of those who own something that is
   * governed, and of whoever a sentence names.
   */
  private void openToAll(Set<LaterKey> said, Map<LaterKey, Extent> actual) {
    String everybody = people.name(Principals.PUBLIC);
    Set<LaterKey> asked = new LinkedHashSet<>();
    for (LaterKey key : said) {
      if (key.grantee().equals(everybody)) {
        asked.add(key);
      }
    }
    for (int node = 1; node < tree.size() && governed.principal(Principals.PUBLIC); node++) {
      int owner = tree.owner(node);
      int database = tree.enclosing(node, NodeKind.DATABASE);
      boolean inside = tree.enclosing(node, NodeKind.SCHEMA) >= 0 && governed.node(node);
      if (owner >= 0 && database >= 0 && inside) {
        asked.add(new LaterKey(people.name(owner), database, NodeKind.ROUTINE, everybody));
      }
    }
    for (LaterKey key : asked) {
      long open = LaterGrant.openToAll(access, key.creator(), key.container(), key.kind());
      if (open != 0) {
        actual.merge(key, new Extent(open, 0), Extent::and);
      }
    }
  }
}
