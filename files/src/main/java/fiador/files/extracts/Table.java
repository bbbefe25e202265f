package fiador.files.extracts;

import fiador.houses.SourceRow;
import java.io.Closeable;
import java.io.IOException;
import java.util.List;

/** The rows of one file, one after the other. */
interface Table extends Closeable, SourceRow {
  /** The names of the columns. */
  List<String> header();

  /**
   * Goes to the next row.
   *
   * @return whether there is one
   * @throws BrokenRowException when what stands there is no row
   */
  boolean next() throws IOException, BrokenRowException;

  /** On which line the row begins, from 1. */
  long line();
}
