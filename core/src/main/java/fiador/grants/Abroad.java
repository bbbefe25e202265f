package fiador.grants;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * What of a server is really elsewhere: tables whose rows another server, or a file, holds, and the
 * logins with which they are fetched there. No secret of them is in it.
 *
 * @param addresses where the server itself is reached, each as {@code host:port}
 * @param places the other ends
 * @param logins who goes on as whom
 * @param tables by node
 */
public record Abroad(
    List<String> addresses, List<Place> places, List<Login> logins, Map<Integer, Table> tables) {
  /** All of it is here, as far as is known. */
  public static final Abroad NONE = new Abroad(List.of(), List.of(), List.of(), Map.of());

  /** What fetches the rows. */
  public enum Carrier {
    /** A PostgreSQL, by a login of its own. */
    POSTGRESQL,
    /** A MariaDB, by a login of its own. */
    MARIADB,
    /** A file that the server reads with the rights of its own process. */
    FILE,
    /** What a program on the server's machine puts out, with the rights of that process. */
    PROGRAM,
    /** Something else, which is not followed. */
    OTHER,
    /** A server that a house sheet describes, by a login of its own. */
    WAREHOUSE;

    /** Whether what it fetches can be followed to the other server. */
    public boolean isFollowed() {
      return this == POSTGRESQL || this == WAREHOUSE;
    }
  }

  /**
   * The other end: what ISO SQL calls a foreign server.
   *
   * @param name what it is called here; empty where it stands in the table alone
   * @param in the database, or the server's own node
   * @param owner the principal that may change it, or -1
   * @param carrier what fetches the rows
   * @param wrapper the carrier's name here
   * @param host the other server's host as it is written, several with commas; empty where none is
   * @param port as it is written; empty where none is
   * @param database the database there; empty where it goes by the login, or where a warehouse has
   *     none
   */
  public record Place(
      String name,
      int in,
      int owner,
      Carrier carrier,
      String wrapper,
      String host,
      String port,
      String database) {}

  /**
   * As whom somebody goes on: what ISO SQL calls a user mapping.
   *
   * @param who a principal, or PUBLIC for all that have none of their own
   * @param place the index of the other end
   * @param user the account there; null where it is not said or was not shown
   * @param secret whether a secret is kept for it
   * @param secretNeeded whether somebody who is no superuser gets on only with one
   * @param shown whether what is said there was shown to whoever surveyed
   */
  public record Login(
      int who,
      int place,
      @Nullable String user,
      boolean secret,
      boolean secretNeeded,
      boolean shown) {}

  /**
   * A table that is elsewhere.
   *
   * @param place the index of the other end
   * @param schema the schema there; empty where there is none
   * @param name the table there, or the path of the file; empty where it is not said
   * @param columns the names there of columns that are called otherwise there, by ordinal
   * @param wholes the tables here of which it is a part: reading one of them reads it too, whatever
   *     rights there are on the part itself
   */
  public record Table(
      int place, String schema, String name, Map<Integer, String> columns, List<Integer> wholes) {
    /** One that is part of no other. */
    public Table(int place, String schema, String name, Map<Integer, String> columns) {
      this(place, schema, name, columns, List.of());
    }
  }

  /** The tables that are elsewhere and part of one here, by that one. Cost: all that are. */
  public Map<Integer, List<Integer>> parts() {
    Map<Integer, List<Integer>> found = new HashMap<>();
    for (Map.Entry<Integer, Table> each : new TreeMap<>(tables).entrySet()) {
      for (int whole : each.getValue().wholes()) {
        found.computeIfAbsent(whole, none -> new ArrayList<>()).add(each.getKey());
      }
    }
    return found;
  }

  /** As whom a principal goes on: by their own mapping, else by everybody's; null for none. */
  public @Nullable Login login(int who, int place) {
    Login everybody = null;
    for (Login login : logins) {
      if (login.place() == place && login.who() == who) {
        return login;
      }
      if (login.place() == place && login.who() == 0) {
        everybody = login;
      }
    }
    return everybody;
  }

  /** Where a table's rows are; null where they are here. */
  public @Nullable Place placeOf(int node) {
    Table table = tables.get(node);
    return table == null ? null : places.get(table.place());
  }

  /** The table's own entry, where {@link #placeOf} gives one. */
  public Table table(int node) {
    return Objects.requireNonNull(tables.get(node), "no table that is elsewhere");
  }

  /** Whether anything is elsewhere. */
  public boolean isEmpty() {
    return places.isEmpty();
  }
}
