package fiador.standin.serving;

import java.security.SecureRandom;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;

/** Everybody who is at work. */
final class Visits implements AutoCloseable {
  private static final int MOST = 1_000;
  private static final long IDLE = 30L * 60 * 1_000;
  private static final int ID_BYTES = 24;

  private final SecureRandom random = new SecureRandom();
  private final Map<String, Visit> open = new ConcurrentHashMap<>();
  private final Clock clock;

  Visits(Clock clock) {
    this.clock = clock;
  }

  String newId() {
    byte[] bytes = new byte[ID_BYTES];
    random.nextBytes(bytes);
    return HexFormat.of().formatHex(bytes);
  }

  /** Whether one more may come; who has been idle for long is sent away first. */
  boolean room() {
    long since = clock.millis() - IDLE;
    for (Visit visit : List.copyOf(open.values())) {
      if (visit.idle(since)) {
        end(visit.id());
      }
    }
    return open.size() < MOST;
  }

  void begin(Visit visit) {
    open.put(visit.id(), visit);
  }

  @Nullable Visit of(String id) {
    return open.get(id);
  }

  void end(String id) {
    Visit gone = open.remove(id);
    if (gone != null) {
      gone.close();
    }
  }

  @Override
  public void close() {
    new ArrayList<>(open.keySet()).forEach(this::end);
  }
}
