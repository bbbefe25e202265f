package fiador.houses;

import fiador.estate.Privilege;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Where the facts of a kind of server come from.
 *
 * @param url what addresses of this kind begin with; null where it is never asked itself
 * @param parameters the parameters that may stand in an address, in lower case
 * @param version a query for the server's version; null where nothing tells it
 * @param identity a query for what tells this server from others; null where nothing does
 * @param everybody what the server calls everybody; null where nothing can be given to everybody
 * @param words privileges by the server's own words for them, in lower case, where those differ;
 *     none means all that exist on the thing
 * @param ignored the server's words for rights that are not looked at, in lower case
 * @param systemSchemas names of schemas that are the server's own
 * @param sources where each sort of fact is found
 */
public record Reading(
    @Nullable String url,
    Set<String> parameters,
    @Nullable String version,
    @Nullable String identity,
    @Nullable String everybody,
    Map<String, List<Privilege>> words,
    Set<String> ignored,
    Set<String> systemSchemas,
    Map<FactSort, List<FactSource>> sources) {

  /** The sources of one sort of fact. */
  public List<FactSource> of(FactSort sort) {
    return sources.getOrDefault(sort, List.of());
  }
}
