package fiador.sweep.spark;

import java.io.FileNotFoundException;
import java.io.IOException;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.FileStatus;
import org.apache.hadoop.fs.FileSystem;
import org.apache.hadoop.fs.Path;
import org.apache.parquet.example.data.Group;
import org.apache.parquet.hadoop.ParquetReader;
import org.apache.parquet.hadoop.example.GroupReadSupport;

/** Reads files of tables where no query is worth it. */
final class ParquetRows {
  private ParquetRows() {}

  /** Takes a row. */
  interface Row {
    void take(Group row) throws IOException;
  }

  /** Goes through a file, or through all files of a folder; none where it is not there. */
  static void each(Path place, Configuration configuration, Row to) throws IOException {
    FileSystem files = place.getFileSystem(configuration);
    FileStatus[] all;
    try {
      all = files.listStatus(place);
    } catch (FileNotFoundException none) {
      return;
    }
    for (FileStatus file : all) {
      try (ParquetReader<Group> reader =
          ParquetReader.builder(new GroupReadSupport(), file.getPath())
              .withConf(configuration)
              .build()) {
        for (Group row = reader.read(); row != null; row = reader.read()) {
          to.take(row);
        }
      }
    }
  }
}
