package fiador.across;

import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.grants.Origin;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The surveys of several servers, and which of them is meant by an address. Names prove nothing,
 * because whoever makes a foreign server calls it as they like; where it leads is what counts.
 */
public final class Atlas {
  private static final Set<String> THIS_MACHINE = Set.of("localhost", "127.0.0.1", "::1");

  private static final String USUAL_PORT = "5432";

  private final List<Access> all;

  /** Of one server, known by its identity or else by its name, only the newest survey counts. */
  public Atlas(List<Access> surveys) {
    Map<String, Access> newest = new LinkedHashMap<>();
    for (Access one : surveys) {
      newest.merge(which(one), one, Atlas::newer);
    }
    this.all = List.copyOf(newest.values());
  }

  private static String which(Access one) {
    Origin about = one.about();
    return about.identity().isEmpty() ? "named " + about.server() : about.identity();
  }

  private static Access newer(Access one, Access other) {
    Instant first = one.about().taken();
    Instant second = other.about().taken();
    return first == null || second != null && second.isAfter(first) ? other : one;
  }

  /** The same with one survey in the place of what else is known of its server. */
  Atlas around(Access home) {
    List<Access> others = new ArrayList<>();
    for (Access one : all) {
      if (!which(one).equals(which(home))) {
        others.add(one);
      }
    }
    others.add(home);
    return new Atlas(others);
  }

  /** All servers, each once. */
  public List<Access> all() {
    return all;
  }

  /**
   * The server that another end is; null where no survey of it is at hand, or where its address
   * means more than one. An address of this machine is one of the machine the server itself runs
   * on. Cost: the addresses of all.
   */
  public @Nullable Access at(Access from, Abroad.Place place) {
    if (!place.carrier().isFollowed()) {
      return null;
    }
    Set<String> wanted = addresses(from, place);
    Access found = null;
    for (Access one : all) {
      if (one.seen().abroad().addresses().stream().anyMatch(wanted::contains)) {
        if (found != null) {
          return null;
        }
        found = one;
      }
    }
    return found;
  }

  /** Whether the other end is that server. */
  boolean isAt(Access from, Abroad.Place place, Access server) {
    Access found = at(from, place);
    return found != null && which(found).equals(which(server));
  }

  /** The addresses to which tables of a server lead, in all the ways that servers are reached. */
  public static Set<String> leads(Access from) {
    Abroad abroad = from.seen().abroad();
    Set<String> found = new HashSet<>();
    for (Abroad.Table table : abroad.tables().values()) {
      Abroad.Place place = abroad.places().get(table.place());
      if (place.carrier().isFollowed()) {
        found.addAll(addresses(from, place));
      }
    }
    return found;
  }

  private static Set<String> addresses(Access from, Abroad.Place place) {
    String[] hosts = place.host().toLowerCase(Locale.ROOT).split(",", -1);
    String[] ports = place.port().split(",", -1);
    Set<String> found = new HashSet<>();
    for (int at = 0; at < hosts.length; at++) {
      String said = ports[ports.length == 1 ? 0 : Math.min(at, ports.length - 1)].trim();
      String usual = place.carrier() == Abroad.Carrier.POSTGRESQL ? USUAL_PORT : "";
      String port = said.isEmpty() ? usual : said;
      String host = hosts[at].trim();
      if (!host.isEmpty() && !host.startsWith("/") && !THIS_MACHINE.contains(host)) {
        found.add(host + ":" + port);
        continue;
      }
      for (String own : from.seen().abroad().addresses()) {
        String machine = own.substring(0, own.lastIndexOf(':'));
        Set<String> names = THIS_MACHINE.contains(machine) ? THIS_MACHINE : Set.of(machine);
        names.forEach(name -> found.add(name + ":" + port));
      }
    }
    return found;
  }
}
