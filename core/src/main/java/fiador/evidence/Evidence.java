package fiador.evidence;

import fiador.estate.Privilege;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * What was really used. Where it was not clear what exactly a statement used, more is noted rather
 * than less, so that nothing that was used looks unused.
 *
 * @param from since when it was watched
 * @param to until when
 * @param uses every use, with when it was last seen
 * @param seen when each user was last seen, even where no use could be made out
 * @param statements how many statements were read
 * @param unread how many of them could not be understood
 * @param examples some of those, without what stands in quotes
 * @param refused what the server refused, how often, where the log says so
 */
public record Evidence(
    Instant from,
    Instant to,
    Map<Use, Instant> uses,
    Map<Integer, Instant> seen,
    long statements,
    long unread,
    List<String> examples,
    Map<Attempt, Tries> refused) {
  /** The {@code column} of a use of all columns. */
  public static final int ALL = -1;

  /** The {@code column} of a use that needs just any part. */
  public static final int ANY = -2;

  /**
   * A use.
   *
   * @param user who
   * @param privilege what
   * @param node on what
   * @param column the ordinal of a column, {@link #ALL} or {@link #ANY}
   */
  public record Use(int user, Privilege privilege, int node, int column) {}

  /**
   * Something that was tried and refused.
   *
   * @param user who
   * @param privilege what
   * @param node on what
   */
  public record Attempt(int user, Privilege privilege, int node) {}

  /**
   * How often.
   *
   * @param times how many times
   * @param last when for the last time
   */
  public record Tries(int times, Instant last) {
    Tries and(Tries more) {
      return new Tries(times + more.times, last.isAfter(more.last) ? last : more.last);
    }
  }
}
