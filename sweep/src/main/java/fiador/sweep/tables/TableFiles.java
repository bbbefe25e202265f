package fiador.sweep.tables;

import java.io.IOException;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.Map;
import java.util.Set;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.Path;
import org.jspecify.annotations.Nullable;

/** A folder with a file for each table that got rows. */
public final class TableFiles implements Sink, AutoCloseable {
  private final Path folder;
  private final Configuration configuration;
  private final Map<Table, TableFile> open = new EnumMap<>(Table.class);
  private final Set<Table> written = EnumSet.noneOf(Table.class);

  public TableFiles(Path folder, Configuration configuration) {
    this.folder = folder;
    this.configuration = configuration;
  }

  /** What the file of a table is called. */
  public static String name(Table table) {
    return table.folder() + ".parquet";
  }

  @Override
  public void row(Table table, @Nullable Object... values) throws IOException {
    TableFile file = open.get(table);
    if (file == null) {
      file = new TableFile(table, new Path(folder, name(table)), configuration);
      open.put(table, file);
      written.add(table);
    }
    file.row(values);
  }

  /** The tables that got rows. */
  public Set<Table> written() {
    return written;
  }

  /** Ends all files; each is whole only then. */
  @Override
  public void close() throws IOException {
    IOException failed = null;
    for (TableFile file : open.values()) {
      try {
        file.close();
      } catch (IOException broken) {
        failed = failed == null ? broken : failed;
      }
    }
    open.clear();
    if (failed != null) {
      throw failed;
    }
  }
}
