package fiador.standin.deeds;

import fiador.standin.deeds.PeopleDeeds.Secret;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Place;
import fiador.standin.estate.Principal;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Thing;
import fiador.standin.estate.WayIn;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Statements about other servers. Administrators alone say where the server calls and as whom, so
 * that nobody sends it anywhere, or borrows a way in.
 */
final class PlaceDeeds {
  private static final Pattern ADDRESS = Pattern.compile("([A-Za-z0-9.-]{1,253}):(\\d{1,5})");
  private static final int HIGHEST_PORT = 65_535;

  private PlaceDeeds() {}

  static void create(Doing doing, String name, String address, @Nullable String database)
      throws RefusedException, MistakeException {
    doing.needAdministrator("create places");
    Matcher found = ADDRESS.matcher(address);
    int port = found.matches() ? Integer.parseInt(found.group(2)) : 0;
    if (port < 1 || port > HIGHEST_PORT) {
      throw new MistakeException("an address is 'HOST:PORT'");
    }
    doing.warehouse().elsewhere().add(new Place(name, found.group(1), port, database));
  }

  static void drop(Doing doing, String name) throws RefusedException, MistakeException {
    doing.needAdministrator("drop places");
    Place place = doing.warehouse().elsewhere().place(name);
    for (Thing thing : doing.warehouse().things()) {
      if (thing.far() != null && thing.far().place().equals(place)) {
        throw new MistakeException(thing + " is there; drop that first");
      }
    }
    doing.warehouse().elsewhere().remove(place);
  }

  /** Lets somebody in as an account there; null for everybody without a way of their own. */
  static void letIn(Doing doing, @Nullable String who, String name, String as, Secret secret)
      throws RefusedException, MistakeException {
    doing.needAdministrator("say who goes into " + name);
    Place place = doing.warehouse().elsewhere().place(name);
    Principal whom = whom(doing, who);
    String known;
    if (doing.again()) {
      known = doing.rows().opened(String.valueOf(doing.kept().getSealed()));
    } else if (secret.hashed()) {
      throw new MistakeException("a secret is given as it is; it is kept sealed anyway");
    } else {
      known = secret.text();
      doing.kept().setSealed(doing.rows().sealed(known));
      // the secret stands last
      int at = doing.text().lastIndexOf(secret.literal());
      doing.text(doing.text().substring(0, at) + "HASHED ''");
    }
    doing.warehouse().elsewhere().waysInto(place).put(whom, new WayIn(as, known));
  }

  static void keepOut(Doing doing, @Nullable String who, String name)
      throws RefusedException, MistakeException {
    doing.needAdministrator("say who goes into " + name);
    Place place = doing.warehouse().elsewhere().place(name);
    if (doing.warehouse().elsewhere().waysInto(place).remove(whom(doing, who)) == null) {
      throw new MistakeException("nothing lets them into " + name);
    }
  }

  private static Principal whom(Doing doing, @Nullable String who) throws MistakeException {
    return who == null ? doing.warehouse().everybody() : doing.principal(who);
  }

  /** A table whose rows another server has. */
  static void createTable(
      Doing doing,
      List<String> path,
      List<ThingDeeds.Column> columns,
      String name,
      List<String> there)
      throws RefusedException, MistakeException {
    Place place = doing.warehouse().elsewhere().place(name);
    int most = 2;
    if (there.size() > most) {
      throw new MistakeException(
          "a table there is named by its schema and its own name; its database is the place's");
    }
    Thing table = ThingDeeds.newTable(doing, path, ThingDeeds.types(columns));
    table.far(new Thing.Far(place, there));
  }
}
