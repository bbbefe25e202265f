package fiador.work.charters;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;

/** The environment's variables, and those that this process has for itself alone. */
public final class Environment {
  private static final Map<String, String> OWN = new ConcurrentHashMap<>();

  private Environment() {}

  /** A variable; null where there is none. */
  public static @Nullable String variable(String name) {
    String own = OWN.get(name);
    return own == null ? System.getenv(name) : own;
  }

  /** Has one for this process alone, such as the secret of a server that it started itself. */
  public static void have(String name, String value) {
    OWN.put(name, value);
  }

  /** Has it no longer. */
  public static void forget(String name) {
    OWN.remove(name);
  }
}
