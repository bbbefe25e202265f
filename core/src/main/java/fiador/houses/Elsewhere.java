package fiador.houses;

import fiador.grants.Abroad;
import fiador.grants.AbroadBuilder;
import fiador.grants.AccessBuilder;
import it.unimi.dsi.fastutil.objects.Object2IntOpenHashMap;
import java.util.Locale;
import java.util.Map;

/** What a server says of tables whose rows another server has, and as whom they are fetched. */
final class Elsewhere {
  private static final int HERE = 0;

  private final AbroadBuilder abroad;
  private final People people;
  private final Things things;
  private final Object2IntOpenHashMap<String> servers = new Object2IntOpenHashMap<>();

  Elsewhere(AccessBuilder builder, People people, Things things) {
    this.abroad = builder.abroad();
    this.people = people;
    this.things = things;
    servers.defaultReturnValue(-1);
  }

  void address(BoundSource source, SourceRow row) throws BadRowException {
    String address = source.needed("address", row);
    if (!address.matches("[^\\s/]+:\\d{1,5}")) {
      throw source.bad("address", "\"" + address + "\" is no host and port, as in dw.example:5000");
    }
    abroad.address(address.toLowerCase(Locale.ROOT));
  }

  void server(BoundSource source, SourceRow row) throws BadRowException {
    String name = source.needed("name", row);
    if (servers.containsKey(name)) {
      throw source.bad("name", "there is a foreign server \"" + name + "\" already");
    }
    Abroad.Place place =
        new Abroad.Place(
            name,
            HERE,
            people.optional(source, "owner", row),
            Abroad.Carrier.WAREHOUSE,
            "",
            source.needed("host", row),
            source.needed("port", row),
            text(source, "database_there", row));
    servers.put(name, abroad.place(place));
  }

  /**
   * Where nothing says otherwise a secret is kept, because nobody gets far without; whether one is
   * asked for where none is kept, no sheet says.
   */
  void login(BoundSource source, SourceRow row) throws BadRowException {
    int place = find(source, row);
    int who = people.find(source, "of", row);
    String user = source.some("user", row);
    boolean secret = source.flag("secret", true, row);
    abroad.login(new Abroad.Login(who, place, user, secret, secret, true));
  }

  void table(BoundSource source, SourceRow row) throws BadRowException {
    int container = things.containerOf(source, "database", "schema", row);
    String name = source.needed("name", row);
    int node = things.relation(container, null, name);
    if (node < 0) {
      throw new UnknownException(source.bad("name", "there is no table \"" + name + "\" there"));
    }
    abroad.table(
        node,
        new Abroad.Table(
            find(source, row),
            text(source, "schema_there", row),
            source.needed("name_there", row),
            Map.of()));
  }

  private int find(BoundSource source, SourceRow row) throws BadRowException {
    String name = source.needed("server", row);
    int place = servers.getInt(name);
    if (place < 0) {
      throw new UnknownException(
          source.bad("server", "there is no foreign server \"" + name + "\""));
    }
    return place;
  }

  private static String text(BoundSource source, String field, SourceRow row)
      throws BadRowException {
    String text = source.some(field, row);
    return text == null ? "" : text;
  }
}
