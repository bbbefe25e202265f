package fiador.standin.serving;

import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Wrong secrets, by who they were tried for: after a few, each next try has to wait twice as long.
 * Whatever comes sooner is not looked at.
 */
final class Attempts {
  private static final int FREE = 3;
  private static final long SECOND = 1_000;
  private static final int LONGEST = 6;
  private static final int REMEMBERED = 10_000;

  private final Clock clock;
  private final Map<String, Wrong> wrong =
      new LinkedHashMap<>() {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Wrong> eldest) {
          return size() > REMEMBERED;
        }
      };

  private record Wrong(int times, long until) {}

  Attempts(Clock clock) {
    this.clock = clock;
  }

  /** How many milliseconds that one has to wait before a secret is looked at. */
  synchronized long wait(String who) {
    Wrong before = wrong.get(who);
    return before == null ? 0 : Math.max(0, before.until() - clock.millis());
  }

  synchronized void failed(String who) {
    Wrong before = wrong.remove(who);
    int times = before == null ? 1 : before.times() + 1;
    long pause = times < FREE ? 0 : SECOND << Math.min(times - FREE, LONGEST);
    wrong.put(who, new Wrong(times, clock.millis() + pause));
  }

  synchronized void succeeded(String who) {
    wrong.remove(who);
  }
}
