package fiador.servers.postgresql;

import fiador.estate.EstateBuilder;
import fiador.grants.Abroad;
import fiador.grants.AbroadBuilder;
import fiador.servers.jdbc.Sql;
import java.sql.Array;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;

/**
 * Reads foreign servers, user mappings and foreign tables of one database. Of what is kept with
 * them only named options are asked for, and of secrets only whether there is one: none comes over
 * the line. A program's command is not read either, because secrets stand in such.
 */
final class ForeignReader {
  private static final String OPTION =
      "(select option_value from pg_options_to_table(%s) where option_name = '%s')";

  /** Who fetches rows is told by the code that does it, and not by a name that anybody can give. */
  private static final String SERVERS =
      """
      select s.oid, s.srvname, s.srvowner, w.fdwname,
             case when h.probin like '%%postgres_fdw' and h.prosrc = 'postgres_fdw_handler'
                  then 'login'
                  when h.probin like '%%file_fdw' and h.prosrc = 'file_fdw_handler' then 'file'
                  else 'other' end as carrier,
             %s as host, %s as hostaddr, %s as port, %s as dbname, %s as service
        from pg_foreign_server s
        join pg_foreign_data_wrapper w on w.oid = s.srvfdw
        left join pg_proc h on h.oid = w.fdwhandler
       order by s.oid
      """
          .formatted(
              option("s.srvoptions", "host"),
              option("s.srvoptions", "hostaddr"),
              option("s.srvoptions", "port"),
              option("s.srvoptions", "dbname"),
              option("s.srvoptions", "service"));

  /** To others than superusers the server shows nothing of most, and they cannot tell. */
  private static final String MAPPINGS =
      """
      select m.srvid, m.umuser, %s as login,
             coalesce(%s, '') <> '' as secret,
             coalesce(lower(%s) in ('false', 'off', '0'), false) as spared,
             m.umoptions is not null or current_setting('is_superuser') = 'on' as shown
        from pg_user_mappings m
       order by m.srvid, m.umuser
      """
          .formatted(
              option("m.umoptions", "user"),
              option("m.umoptions", "password"),
              option("m.umoptions", "password_required"));

  private static final String TABLES =
      """
      select f.ftrelid, f.ftserver, n.nspname, c.relname,
             %s as schema_there, %s as table_there, %s as file, %s is not null as program,
             a.here, a.there
        from pg_foreign_table f
        join pg_class c on c.oid = f.ftrelid
        join pg_namespace n on n.oid = c.relnamespace
        left join (
             select attrelid, array_agg(attname::text) as here, array_agg(option_value) as there
               from pg_attribute, pg_options_to_table(attfdwoptions)
              where not attisdropped and option_name = 'column_name'
              group by attrelid) a on a.attrelid = f.ftrelid
       where c.relpersistence <> 't'
       order by f.ftrelid
      """
          .formatted(
              option("f.ftoptions", "schema_name"),
              option("f.ftoptions", "table_name"),
              option("f.ftoptions", "filename"),
              option("f.ftoptions", "program"));

  /** Reading a table reads its parts too, with no right on them asked for. */
  private static final String PARTS =
      """
      with recursive up (part, whole) as (
             select i.inhrelid, i.inhparent
               from pg_inherits i join pg_foreign_table f on f.ftrelid = i.inhrelid
              union
             select up.part, i.inhparent
               from up join pg_inherits i on i.inhrelid = up.whole)
      select part, whole from up order by part, whole
      """;

  private final Database database;
  private final EstateBuilder estate;
  private final AbroadBuilder abroad;
  private final Map<Long, Integer> places = new HashMap<>();
  private final Map<Long, Abroad.Place> made = new HashMap<>();
  private final Map<Long, Integer> programs = new HashMap<>();

  ForeignReader(Database database) {
    this.database = database;
    this.estate = database.catalog().builder().estate();
    this.abroad = database.catalog().builder().abroad();
  }

  void read(Connection connection) throws SQLException {
    Sql.rows(connection, SERVERS, this::place);
    Sql.rows(connection, MAPPINGS, this::login);
    Sql.rows(connection, TABLES, this::table);
    Sql.rows(connection, PARTS, this::part);
  }

  private static String option(String options, String name) {
    return OPTION.formatted(options, name);
  }

  private void place(ResultSet row) throws SQLException {
    Abroad.Carrier carrier =
        switch (row.getString("carrier")) {
          case "login" -> Abroad.Carrier.POSTGRESQL;
          case "file" -> Abroad.Carrier.FILE;
          default -> Abroad.Carrier.OTHER;
        };
    String host = text(row, "hostaddr").isEmpty() ? text(row, "host") : text(row, "hostaddr");
    String service = text(row, "service");
    Abroad.Place place =
        new Abroad.Place(
            row.getString("srvname"),
            database.node(),
            database.principal(row.getLong("srvowner")),
            carrier,
            row.getString("fdwname"),
            // where a service is named, a file on that machine says where it is
            service.isEmpty() ? host : "service " + service,
            text(row, "port"),
            text(row, "dbname"));
    made.put(row.getLong("oid"), place);
    places.put(row.getLong("oid"), abroad.place(place));
  }

  private void login(ResultSet row) throws SQLException {
    Integer place = places.get(row.getLong("srvid"));
    int who = database.principal(row.getLong("umuser"));
    if (place != null && who >= 0) {
      boolean shown = row.getBoolean("shown");
      abroad.login(
          new Abroad.Login(
              who,
              place,
              row.getString("login"),
              row.getBoolean("secret"),
              !row.getBoolean("spared"),
              shown));
    }
  }

  private void table(ResultSet row) throws SQLException {
    int node = database.relations().get(row.getLong("ftrelid"));
    Integer place = places.get(row.getLong("ftserver"));
    if (node < 0 || place == null) {
      return;
    }
    boolean there = abroadCarrier(row) == Abroad.Carrier.POSTGRESQL;
    if (row.getBoolean("program")) {
      place = program(row.getLong("ftserver"));
    }
    String schema = text(row, "schema_there");
    String name = text(row, "table_there");
    if (there) {
      schema = schema.isEmpty() ? row.getString("nspname") : schema;
      name = name.isEmpty() ? row.getString("relname") : name;
    } else if (name.isEmpty()) {
      name = text(row, "file");
    }
    abroad.table(node, new Abroad.Table(place, schema, name, columns(row, node)));
  }

  private void part(ResultSet row) throws SQLException {
    int node = database.relations().get(row.getLong("part"));
    int whole = database.relations().get(row.getLong("whole"));
    if (node >= 0 && whole >= 0) {
      abroad.part(node, whole);
    }
  }

  private Abroad.Carrier abroadCarrier(ResultSet row) throws SQLException {
    return made.get(row.getLong("ftserver")).carrier();
  }

  /** The same foreign server, as the place of what programs put out. */
  private int program(long server) {
    return programs.computeIfAbsent(
        server,
        oid -> {
          Abroad.Place file = made.get(oid);
          return abroad.place(
              new Abroad.Place(
                  file.name(),
                  file.in(),
                  file.owner(),
                  Abroad.Carrier.PROGRAM,
                  file.wrapper(),
                  file.host(),
                  file.port(),
                  file.database()));
        });
  }

  private Map<Integer, String> columns(ResultSet row, int node) throws SQLException {
    Array here = row.getArray("here");
    if (here == null) {
      return Map.of();
    }
    Map<String, Integer> ordinals = estate.columnOrdinals(node);
    String[] names = (String[]) here.getArray();
    String[] others = (String[]) row.getArray("there").getArray();
    Map<Integer, String> found = new HashMap<>();
    for (int i = 0; i < names.length; i++) {
      if (ordinals.containsKey(names[i]) && !names[i].equals(others[i])) {
        found.put(ordinals.get(names[i]), others[i]);
      }
    }
    return Map.copyOf(found);
  }

  private static String text(ResultSet row, String column) throws SQLException {
    String value = row.getString(column);
    return value == null ? "" : value;
  }
}
