package fiador.reviews;

import fiador.estate.Privilege;
import java.time.Instant;
import java.util.Map;

/**
 * What was really used.
 *
 * @param from since when it was watched
 * @param to until when
 * @param uses every use, with when it was last seen
 * @param seen when each user was last seen, even where no use could be made out
 * @param statements how many statements were read
 * @param unread how many of them could not be understood
 */
public record Evidence(
    Instant from,
    Instant to,
    Map<Use, Instant> uses,
    Map<Integer, Instant> seen,
    long statements,
    long unread) {
  /**
   * A use.
   *
   * @param user who
   * @param privilege what
   * @param node on what
   * @param column the ordinal of a column, or -1 for the whole
   */
  public record Use(int user, Privilege privilege, int node, int column) {}
}
