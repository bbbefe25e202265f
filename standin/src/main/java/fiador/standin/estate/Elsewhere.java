package fiador.standin.estate;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The other servers that are known here, and who goes into them as whom. */
public final class Elsewhere {
  private final Map<String, Place> places = new LinkedHashMap<>();
  private final Map<String, Map<Principal, WayIn>> waysIn = new LinkedHashMap<>();
  private final Principal everybody;

  Elsewhere(Principal everybody) {
    this.everybody = everybody;
  }

  /** All of them. */
  public Collection<Place> places() {
    return places.values();
  }

  /**
   * The one of that name.
   *
   * @throws MistakeException when there is none
   */
  public Place place(String name) throws MistakeException {
    Place found = places.get(name);
    if (found == null) {
      throw new MistakeException("there is no place " + name);
    }
    return found;
  }

  /**
   * One more.
   *
   * @throws MistakeException when the name is taken
   */
  public void add(Place place) throws MistakeException {
    if (places.putIfAbsent(place.name(), place) != null) {
      throw new MistakeException("there is a place " + place.name() + " already");
    }
  }

  /** Takes it away, and all ways into it. */
  public void remove(Place place) {
    places.remove(place.name());
    waysIn.remove(place.name());
  }

  /** Who goes into it as whom. */
  public Map<Principal, WayIn> waysInto(Place place) {
    return waysIn.computeIfAbsent(place.name(), fresh -> new LinkedHashMap<>());
  }

  /** As whom somebody goes into it: by their own way, else by everybody's; null for none. */
  public @Nullable WayIn wayIn(Principal who, Place place) {
    Map<Principal, WayIn> ways = waysIn.getOrDefault(place.name(), Map.of());
    return ways.getOrDefault(who, ways.get(everybody));
  }

  void forget(Principal gone) {
    waysIn.values().forEach(ways -> ways.remove(gone));
  }
}
