package fiador.effects;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Reads;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;

/**
 * Whether a view that may be selected from can really be read: its owner, or the asker where the
 * view reads with the asker's rights, must be able to read what lies under it, through views of
 * views. Routines that a view calls always run on the asker's right to execute them. Gates do not
 * matter under a view: names were looked up when it was made.
 */
final class ViewReading {
  private final Access access;
  private final long now;
  private final RoleWalk walk;
  private final Int2ObjectOpenHashMap<Session> owners = new Int2ObjectOpenHashMap<>();

  ViewReading(Access access, long epochSecond, RoleWalk walk) {
    this.access = access;
    this.now = epochSecond;
    this.walk = walk;
  }

  /**
   * What keeps a view from being read.
   *
   * @param under the node that cannot be used
   * @param who the principal who would need a right on it
   */
  record Obstacle(int under, int who) {}

  /**
   * What keeps {@code asker} from reading the node although he may select from it; null if nothing.
   */
  Obstacle obstacle(int node, Session asker) {
    Reads reads = access.reads();
    if (!access.rules().checksUnderViews()
        || access.tree().kind(node) != NodeKind.VIEW
        || !reads.hasAny(node)) {
      return null;
    }
    IntOpenHashSet seen = new IntOpenHashSet();
    IntArrayList views = IntArrayList.of(node);
    while (!views.isEmpty()) {
      int view = views.popInt();
      if (!seen.add(view)) {
        continue;
      }
      Session reader = readerOf(view, asker);
      for (int at = reads.byView().from(view); at < reads.byView().to(view); at++) {
        int row = reads.byView().row(at);
        int under = reads.under()[row];
        boolean routine = access.tree().kind(under) == NodeKind.ROUTINE;
        Session who = routine ? asker : reader;
        long needed = routine ? Privilege.EXECUTE.bit() : Privilege.SELECT.bit();
        if (!who.covers(under, needed, reads.columns()[row])) {
          return new Obstacle(under, who.self());
        }
        if (access.tree().kind(under) == NodeKind.VIEW) {
          views.add(under);
        }
      }
    }
    return null;
  }

  private Session readerOf(int view, Session asker) {
    int owner = ownerOf(view);
    if (access.tree().is(view, NodeFact.INVOKER) || owner < 0) {
      return asker;
    }
    return owners.computeIfAbsent(
        owner, id -> new Session(access, now, id, walk.up(id, RoleWalk.Along.INHERIT)));
  }

  private int ownerOf(int view) {
    int owner = access.tree().owner(view);
    int schema = access.tree().enclosing(view, NodeKind.SCHEMA);
    return owner >= 0 || schema < 0 ? owner : access.tree().owner(schema);
  }
}
