package fiador.grants;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Collects what of a server is really elsewhere. */
public final class AbroadBuilder {
  private final List<String> addresses = new ArrayList<>();
  private final List<Abroad.Place> places = new ArrayList<>();
  private final List<Abroad.Login> logins = new ArrayList<>();
  private final Map<Integer, Abroad.Table> tables = new LinkedHashMap<>();

  /** Adds an address at which the server is reached, as {@code host:port}; once is enough. */
  public void address(String address) {
    if (!addresses.contains(address)) {
      addresses.add(address);
    }
  }

  /** Adds another end; gives its index. */
  public int place(Abroad.Place place) {
    places.add(place);
    return places.size() - 1;
  }

  /** How many other ends there are so far. */
  public int places() {
    return places.size();
  }

  /** Says as whom somebody goes on. */
  public void login(Abroad.Login login) {
    logins.add(login);
  }

  /** Says that a node's rows are elsewhere. */
  public void table(int node, Abroad.Table table) {
    tables.put(node, table);
  }

  /** Says that a table that is elsewhere is a part of another. */
  public void part(int node, int whole) {
    Abroad.Table table = tables.get(node);
    if (table != null) {
      List<Integer> wholes = new ArrayList<>(table.wholes());
      wholes.add(whole);
      tables.put(
          node,
          new Abroad.Table(
              table.place(), table.schema(), table.name(), table.columns(), List.copyOf(wholes)));
    }
  }

  Abroad build() {
    return new Abroad(
        List.copyOf(addresses), List.copyOf(places), List.copyOf(logins), Map.copyOf(tables));
  }
}
