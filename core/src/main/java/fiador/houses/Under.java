package fiador.houses;

import fiador.estate.EstateBuilder;
import fiador.estate.None;
import fiador.grants.AccessBuilder;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.LinkedHashMap;
import java.util.Map;

/** What views and routines need of what lies under them. */
final class Under {
  private final AccessBuilder builder;
  private final EstateBuilder estate;
  private final Things things;
  private final Map<Reading, IntArrayList> readings = new LinkedHashMap<>();

  private record Reading(int view, int under) {}

  Under(AccessBuilder builder, Things things) {
    this.builder = builder;
    this.estate = builder.estate();
    this.things = things;
  }

  void reads(BoundSource source, SourceRow row) throws BadRowException {
    int view = things.find(source, row);
    int in = things.containerOf(source, "reads_database", "reads_schema", row);
    String name = source.needed("reads_name", row);
    int under = things.relation(in, null, name);
    if (under < 0) {
      throw new UnknownException(
          source.bad("reads_name", "there is no table or view \"" + name + "\" there"));
    }
    IntArrayList columns =
        readings.computeIfAbsent(new Reading(view, under), fresh -> new IntArrayList());
    String column = source.some("reads_column", row);
    if (column != null) {
      int id = estate.names().find(column);
      int ordinal = id < 0 ? None.COLUMN : estate.columnOrdinal(under, id);
      if (ordinal < 0) {
        throw new UnknownException(
            source.bad("reads_column", "there is no column \"" + column + "\" in it"));
      }
      columns.add(ordinal);
    }
  }

  /** After the last row. */
  void end() {
    readings.forEach(
        (reading, columns) ->
            builder.reads(
                reading.view(),
                reading.under(),
                builder.columnSets().intern(columns.intStream().sorted().distinct().toArray())));
  }
}
