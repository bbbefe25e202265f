package fiador.effects;

import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.time.Clock;

/** From whom denials take what they were given, denial by denial. */
public final class Stops {
  private final Int2ObjectOpenHashMap<IntArrayList> users = new Int2ObjectOpenHashMap<>();

  /** Those of an estate. Cost: where there are denials, all that users hold to whom any speaks. */
  public Stops(Access access, Clock clock) {
    IntSet denied = new IntOpenHashSet();
    for (int row = 0; row < access.denials().size(); row++) {
      denied.add(access.denials().grantee(row));
    }
    long now = clock.instant().getEpochSecond();
    Sessions sessions = new Sessions(access, now, new RoleWalk(access, now));
    Holdings holdings = new Holdings(access, clock, true);
    for (int user = 1; user < access.principals().size() && !denied.isEmpty(); user++) {
      if (access.principals().isUser(user)) {
        Session session = sessions.login(user);
        if (session.roles().intStream().anyMatch(denied::contains)) {
          add(user, session, holdings);
        }
      }
    }
  }

  private void add(int user, Session session, Holdings holdings) {
    IntOpenHashSet known = new IntOpenHashSet();
    for (Holding row : holdings.of(user)) {
      if (row.state() == State.DENIED) {
        for (int denial : session.denials(row.node(), row.privilege().bit(), row.columns())) {
          if (known.add(denial)) {
            users.computeIfAbsent(denial, fresh -> new IntArrayList()).add(user);
          }
        }
      }
    }
  }

  /** The users from whom that denial takes something they were given. */
  public IntArrayList by(int denial) {
    return users.getOrDefault(denial, new IntArrayList());
  }
}
