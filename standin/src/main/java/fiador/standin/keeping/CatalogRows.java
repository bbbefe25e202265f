package fiador.standin.keeping;

import fiador.standin.estate.Judge;
import fiador.standin.estate.Later;
import fiador.standin.estate.Place;
import fiador.standin.estate.Principal;
import fiador.standin.estate.Right;
import fiador.standin.estate.Thing;
import fiador.standin.estate.Veil;
import fiador.standin.estate.Warehouse;
import fiador.standin.house.House;
import fiador.standin.house.House.Roles;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** What the catalog tells of a warehouse, as rows of text. */
final class CatalogRows {
  private final House house;
  private final Warehouse warehouse;

  CatalogRows(House house, Warehouse warehouse) {
    this.house = house;
    this.warehouse = warehouse;
  }

  /** The rows of one of its views. */
  List<@Nullable String[]> of(String view) {
    List<@Nullable String[]> rows = new ArrayList<>();
    switch (view) {
      case "principals" -> principals(rows);
      case "powers" -> powers(rows);
      case "role_members" -> members(rows);
      case "permissions" -> permissions(rows);
      case "later_permissions" -> later(rows);
      case "labels" -> labels(rows);
      case "attributes" -> attributes(rows);
      case "veils" -> veils(rows);
      case "places" -> places(rows);
      case "ways_in" -> waysIn(rows);
      case "external_tables" -> external(rows);
      default -> things(view, rows);
    }
    return rows;
  }

  private static String yes(boolean is) {
    return is ? "yes" : "no";
  }

  private void principals(List<@Nullable String[]> rows) {
    for (Principal one : warehouse.principals()) {
      rows.add(
          new @Nullable String[] {
            one.name(),
            one.isUser() ? "person" : "role",
            yes(one.locked()),
            yes(one.powers().contains(Judge.ADMINISTRATOR)),
            yes(one.powers().contains(Judge.KEEPER)),
            null
          });
    }
  }

  private void powers(List<@Nullable String[]> rows) {
    for (Principal one : warehouse.principals()) {
      one.powers().forEach(power -> rows.add(new String[] {one.name(), power}));
    }
  }

  private void members(List<@Nullable String[]> rows) {
    List<Principal> all = new ArrayList<>(warehouse.principals());
    all.add(warehouse.everybody());
    for (Principal member : all) {
      for (Map.Entry<Principal, Boolean> role : warehouse.rolesOf(member).entrySet()) {
        boolean atLogin =
            house.roles() == Roles.ALL_ON
                || !member.isUser()
                || role.getKey() == member.defaultRole();
        rows.add(
            new String[] {role.getKey().name(), member.name(), yes(role.getValue()), yes(atLogin)});
      }
    }
  }

  private void things(String view, List<@Nullable String[]> rows) {
    for (Thing thing : warehouse.things()) {
      String[] place = place(thing);
      boolean holdsRows = thing.kind().equals("table") || thing.kind().equals("view");
      String owner = thing.owner().name();
      if (view.equals("databases") && thing.kind().equals("database")) {
        rows.add(new String[] {thing.name(), owner, yes(thing.sealed())});
      } else if (view.equals("schemas") && thing.kind().equals("schema")) {
        rows.add(new @Nullable String[] {place[0], place[1], owner, yes(thing.sealed())});
      } else if (view.equals("objects") && holdsRows) {
        String reads = thing.text() == null ? null : thing.asAsker() ? "asker" : "owner";
        rows.add(
            new @Nullable String[] {
              place[0], place[1], place[2], thing.kind(), owner, reads, thing.text()
            });
      } else if (view.equals("columns") && holdsRows) {
        thing
            .columns()
            .forEach(
                (column, type) ->
                    rows.add(new @Nullable String[] {place[0], place[1], place[2], column, type}));
      }
    }
  }

  /** Its database, schema and own name; null for each that is not. */
  static @Nullable String[] place(Thing thing) {
    Thing database = thing.enclosing("database");
    Thing schema = thing.enclosing("schema");
    boolean object = schema != null && schema != thing || thing.kind().equals(Thing.LABEL);
    return new @Nullable String[] {
      database == null ? null : database.name(),
      schema == null ? null : schema.name(),
      object ? thing.name() : null
    };
  }

  private void labels(List<@Nullable String[]> rows) {
    for (Thing thing : warehouse.things()) {
      labels(thing, null, rows);
      thing.columns().keySet().forEach(column -> labels(thing, column, rows));
    }
  }

  private static void labels(Thing thing, @Nullable String column, List<@Nullable String[]> rows) {
    @Nullable String[] place = place(thing);
    for (String label : thing.labels(column)) {
      rows.add(new @Nullable String[] {label, thing.kind(), place[0], place[1], place[2], column});
    }
  }

  private void permissions(List<@Nullable String[]> rows) {
    List<Thing> all = new ArrayList<>(warehouse.things());
    all.addAll(warehouse.labels().values());
    for (Thing thing : all) {
      @Nullable String[] place = place(thing);
      for (Map.Entry<Right, Boolean> row : warehouse.rights(thing).entrySet()) {
        Right right = row.getKey();
        Principal giver = warehouse.giver(right);
        rows.add(
            new @Nullable String[] {
              right.refused() ? "refused" : "allowed",
              right.to().name(),
              right.privilege(),
              thing.kind(),
              place[0],
              place[1],
              place[2],
              right.column(),
              yes(row.getValue()),
              giver == null ? null : giver.name()
            });
      }
    }
  }

  private void attributes(List<@Nullable String[]> rows) {
    for (Principal one : warehouse.principals()) {
      one.attributes()
          .forEach(
              (name, values) ->
                  values.forEach(value -> rows.add(new String[] {one.name(), name, value})));
    }
  }

  private void veils(List<@Nullable String[]> rows) {
    for (Thing thing : warehouse.things()) {
      Veil veil = thing.veil();
      if (!veil.isOpen() || !veil.note().isEmpty()) {
        @Nullable String[] place = place(thing);
        String masked = String.join(", ", new TreeSet<>(veil.columns().keySet()));
        rows.add(
            new @Nullable String[] {
              place[0], place[1], place[2], veil.rows(), masked, veil.note(), yes(veil.asNoted())
            });
      }
    }
  }

  private void places(List<@Nullable String[]> rows) {
    for (Place place : warehouse.elsewhere().places()) {
      rows.add(
          new @Nullable String[] {
            place.name(), place.host(), String.valueOf(place.port()), place.database()
          });
    }
  }

  private void waysIn(List<@Nullable String[]> rows) {
    for (Place place : warehouse.elsewhere().places()) {
      warehouse
          .elsewhere()
          .waysInto(place)
          .forEach((who, way) -> rows.add(new String[] {place.name(), who.name(), way.as()}));
    }
  }

  private void external(List<@Nullable String[]> rows) {
    for (Thing thing : warehouse.things()) {
      if (thing.far() != null) {
        @Nullable String[] place = place(thing);
        List<String> there = thing.far().names();
        rows.add(
            new @Nullable String[] {
              place[0],
              place[1],
              place[2],
              thing.far().place().name(),
              there.size() < 2 ? null : there.get(0),
              there.get(there.size() - 1)
            });
      }
    }
  }

  private void later(List<@Nullable String[]> rows) {
    for (Map.Entry<Later, Boolean> row : warehouse.later().entrySet()) {
      Later later = row.getKey();
      @Nullable String[] place = Arrays.copyOf(place(later.in()), 2);
      rows.add(
          new @Nullable String[] {
            later.to().name(),
            later.privilege(),
            later.kind(),
            place[0],
            place[1],
            yes(row.getValue())
          });
    }
  }
}
