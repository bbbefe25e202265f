package fiador.findings.check;

import fiador.changes.wanted.Accounts;
import fiador.changes.wanted.OnServer;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight.Seal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What a charter expects of an estate beyond what it demands; all of it may be empty.
 *
 * @param umbrella the role that holds all others, or null
 * @param names patterns of names by what they are for: {@code access_role}, {@code duty_role},
 *     {@code owner_role}, {@code user}
 * @param purposes the purpose of each role that has one
 * @param kinds {@code person} or {@code service}, by user
 * @param ends the moment from which a user's access is over, for those who have one
 * @param demanded what the charter demands, some of it for a time
 * @param duties roles that no one may hold together, by the conflict's name
 * @param seals what is closed to all but some
 * @param waivers findings that are accepted
 * @param ours names of accounts with which servers are administered
 * @param limits from where on something is a finding
 * @param accounts what its users are called on its servers
 */
public record Expected(
    String umbrella,
    Map<String, String> names,
    Map<String, String> purposes,
    Map<String, String> kinds,
    Map<String, Instant> ends,
    Wanted demanded,
    Map<String, List<String>> duties,
    List<Seal> seals,
    List<Waiver> waivers,
    Set<String> ours,
    Limits limits,
    Accounts accounts) {
  /** Nothing is expected. */
  public static final Expected NOTHING =
      new Expected(
          null,
          Map.of(),
          Map.of(),
          Map.of(),
          Map.of(),
          Wanted.NOTHING,
          Map.of(),
          List.of(),
          List.of(),
          Set.of(),
          Limits.USUAL,
          Accounts.SAME);

  /** What is expected of one server, with users by the accounts they have there. */
  public Expected on(OnServer server) {
    return new Expected(
        umbrella,
        names,
        purposes,
        server.keys(kinds),
        server.keys(ends),
        server.wanted(demanded),
        duties,
        server.seals(seals),
        waivers.stream().map(waiver -> waiver.on(server)).toList(),
        ours,
        limits,
        accounts);
  }
}
