package fiador.sweep.spark;

import fiador.sweep.tables.Field;
import fiador.sweep.tables.Table;
import java.io.IOException;
import java.util.List;
import org.apache.parquet.example.data.Group;
import org.jspecify.annotations.Nullable;

/**
 * The row of a server, as it was written.
 *
 * @param values one for each field of {@link Table#SERVERS}
 */
record ServerRow(@Nullable Object[] values) {
  private static final List<Field> FIELDS = Table.SERVERS.fields();

  /** The place of a field. */
  static int at(String field) {
    for (int at = 0; at < FIELDS.size(); at++) {
      if (FIELDS.get(at).name().equals(field)) {
        return at;
      }
    }
    throw new IllegalArgumentException(field);
  }

  /** That of a server; null where there is none. */
  static @Nullable ServerRow of(Store store, String server) throws IOException {
    ServerRow[] found = new ServerRow[1];
    ParquetRows.each(
        store.of(Table.SERVERS, server),
        store.configuration(),
        row -> {
          Object[] values = new Object[FIELDS.size()];
          for (int at = 0; at < values.length; at++) {
            values[at] = value(row, FIELDS.get(at));
          }
          found[0] = new ServerRow(values);
        });
    return found[0];
  }

  private static @Nullable Object value(Group row, Field field) {
    if (row.getFieldRepetitionCount(field.name()) == 0) {
      return null;
    }
    return field.type() == Field.Type.TEXT
        ? row.getString(field.name(), 0)
        : (Object) row.getLong(field.name(), 0);
  }
}
