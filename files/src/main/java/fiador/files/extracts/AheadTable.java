package fiador.files.extracts;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * A table that is read ahead by a thread of its own, some thousand rows at a time: unpacking and
 * taking apart is a third of the work, and nobody has to wait for it.
 */
final class AheadTable implements Table {
  private static final int ROWS = 2_000;
  private static final int BATCHES = 4;
  private static final long PATIENCE_MILLIS = 100;

  private final Table table;
  private final List<String> header;
  private final BlockingQueue<List<Row>> read = new ArrayBlockingQueue<>(BATCHES);
  private final Thread reader;
  private List<Row> batch = List.of();
  private int place;
  private @Nullable Row row;
  private long line;
  private volatile boolean closed;

  /**
   * A row, or what is there instead.
   *
   * @param fields null where it is none
   * @param wrong why it is none; null with no fields at the end
   */
  private record Row(long line, @Nullable String @Nullable [] fields, @Nullable Throwable wrong) {}

  AheadTable(Table table) {
    this.table = table;
    this.header = table.header();
    this.line = table.line();
    this.reader = new Thread(this::ahead, "extract");
    reader.setDaemon(true);
    reader.start();
  }

  private void ahead() {
    boolean more = true;
    while (more && !closed) {
      List<Row> rows = new ArrayList<>(ROWS);
      while (more && rows.size() < ROWS) {
        Row found = one();
        rows.add(found);
        more =
            found.fields() != null
                || found.wrong() instanceof BrokenRowException broken && !broken.last();
      }
      hand(rows);
    }
  }

  private Row one() {
    try {
      if (!table.next()) {
        return new Row(table.line(), null, null);
      }
      @Nullable String[] fields = new @Nullable String[header.size()];
      for (int i = 0; i < fields.length; i++) {
        fields[i] = table.value(i);
      }
      return new Row(table.line(), fields, null);
    } catch (BrokenRowException | IOException | RuntimeException | Error wrong) {
      // whatever it is: whoever waits for the next row must hear of it
      return new Row(table.line(), null, wrong);
    }
  }

  private void hand(List<Row> rows) {
    try {
      while (!closed && !read.offer(rows, PATIENCE_MILLIS, TimeUnit.MILLISECONDS)) {
        // whoever takes them is still busy with those before
      }
    } catch (InterruptedException ended) {
      closed = true;
    }
  }

  @Override
  public List<String> header() {
    return header;
  }

  @Override
  public boolean next() throws IOException, BrokenRowException {
    if (place == batch.size()) {
      try {
        batch = read.take();
        place = 0;
      } catch (InterruptedException ended) {
        Thread.currentThread().interrupt();
        throw new IOException("interrupted", ended);
      }
    }
    Row found = batch.get(place++);
    row = found;
    line = found.line();
    if (found.wrong() instanceof BrokenRowException broken) {
      throw broken;
    } else if (found.wrong() instanceof IOException failed) {
      throw failed;
    } else if (found.wrong() instanceof RuntimeException failed) {
      throw failed;
    } else if (found.wrong() instanceof Error failed) {
      throw failed;
    }
    return found.fields() != null;
  }

  @Override
  public @Nullable String value(int column) {
    return row == null || row.fields() == null ? null : row.fields()[column];
  }

  @Override
  public long line() {
    return line;
  }

  @Override
  public void close() throws IOException {
    closed = true;
    reader.interrupt();
    try {
      // the file is closed once nobody reads it
      reader.join();
    } catch (InterruptedException ended) {
      Thread.currentThread().interrupt();
    }
    table.close();
  }
}
