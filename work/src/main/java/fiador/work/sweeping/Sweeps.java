package fiador.work.sweeping;

import fiador.refusal.Refusal;
import java.io.IOException;
import java.time.Instant;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * Works out many surveys at once and keeps what came of it as tables, of which questions about all
 * servers are answered. The engine that does so is large and comes as an archive of its own.
 */
public interface Sweeps {
  /** The engine, where its archive is there. */
  static Optional<Sweeps> here() {
    return ServiceLoader.load(Sweeps.class).findFirst();
  }

  /**
   * Works out what changed since the last sweep into the same place. Cost: reading all surveys, and
   * working out those that changed.
   *
   * @param progress told how far it has come
   * @throws Refusal when nothing can be done; what is wrong with one survey is told in the outcome
   */
  Outcome sweep(Order order, Consumer<String> progress) throws Refusal, IOException;

  /**
   * Answers a question from what a sweep has left.
   *
   * @param sweep where that is
   * @param cores how many threads may work on it
   */
  <T> T ask(String sweep, int cores, Question question, Reading<T> reading)
      throws Refusal, IOException;

  /** What can be asked of a sweep. */
  sealed interface Question {
    /** The fields of the rows of an answer, in order. */
    default List<String> fields() {
      return List.of(
          "person",
          "person_name",
          "server",
          "account",
          "privilege",
          "kind",
          "object",
          "columns",
          "state",
          "grantable",
          "rows",
          "masked",
          "cannot_log_in",
          "from_server",
          "login",
          "certain");
    }

    /**
     * Who may do something.
     *
     * @param label with things that carry this label; empty for any
     * @param object with things whose dotted names match this; empty for any
     * @param privilege what may be done
     * @param server on servers whose names match this
     * @param inEveryState also what does not work now
     */
    record Who(String label, String object, String privilege, String server, boolean inEveryState)
        implements Question {}

    /**
     * All that somebody holds, by the name or key the list of people has for them, or by any of
     * their accounts.
     */
    record Person(String key) implements Question {}

    /** What was opened, closed or altered by surveys that were taken since then. */
    record Changed(Instant since) implements Question {
      @Override
      public List<String> fields() {
        return List.of(
            "surveyed",
            "server",
            "change",
            "person",
            "account",
            "privilege",
            "kind",
            "object",
            "columns",
            "state",
            "state_before",
            "surveyed_before");
      }
    }
  }

  /** Takes the rows of an answer while the engine is there. */
  interface Reading<T> {
    /**
     * Reads them.
     *
     * @param found the rows in order, each with the fields it has
     * @param servers what is known of how much the answer is from
     */
    T read(Iterator<Map<String, Object>> found, Servers servers) throws IOException;
  }

  /**
   * What answers are from.
   *
   * @param known how many servers there are answers of
   * @param failed those whose newest survey could not be used
   * @param oldest when the oldest of the surveys was taken; null where there is none
   */
  record Servers(long known, long failed, @Nullable Instant oldest) {}
}
