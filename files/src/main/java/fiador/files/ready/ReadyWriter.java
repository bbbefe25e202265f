package fiador.files.ready;

import fiador.columns.Chars;
import fiador.columns.ColumnSink;
import fiador.columns.Ints;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.CRC32;

/**
 * Writes a ready form to a stream, from its beginning to its end: a mark, the pieces of each column
 * and behind them their index, the head that says where the columns are, and where the head is.
 * Numbers of the index are little-endian, those of the head big-endian.
 */
final class ReadyWriter implements ColumnSink {
  /** What the file begins with: the version of the form is part of it. */
  static final byte[] MARK = "fiador ready form 10\n".getBytes(StandardCharsets.US_ASCII);

  /** What the file ends with: where the head begins, its length and its checksum. */
  static final int TRAILER = 8 + 4 + 4;

  private final OutputStream out;
  private final List<Column> columns = new ArrayList<>();
  private long written;

  ReadyWriter(OutputStream out) {
    this.out = out;
    write(MARK);
  }

  @Override
  public void ints(String name, Ints column) {
    List<byte[]> sizes = new ArrayList<>();
    long start = written;
    for (int from = 0; from < column.size(); from += Ints.PIECE) {
      int to = Math.min(column.size(), from + Ints.PIECE);
      sizes.add(piece(start, Packing.ints(column.copy(from, to))));
    }
    index(name, false, column.size(), start, sizes);
  }

  @Override
  public void chars(String name, Chars column) {
    List<byte[]> sizes = new ArrayList<>();
    long start = written;
    for (int from = 0; from < column.size(); from += Chars.PIECE) {
      int to = Math.min(column.size(), from + Chars.PIECE);
      sizes.add(piece(start, Packing.chars(column.text(from, to))));
    }
    index(name, true, column.size(), start, sizes);
  }

  /** Writes a piece, and gives what the index says of it. */
  private byte[] piece(long start, byte[] packed) {
    write(packed);
    return ByteBuffer.allocate(Column.ENTRY)
        .order(ByteOrder.LITTLE_ENDIAN)
        .putInt(Math.toIntExact(written - start))
        .putInt(checksum(packed, 0, packed.length))
        .array();
  }

  private void index(String name, boolean isText, int size, long start, List<byte[]> entries) {
    long index = written;
    CRC32 checksum = new CRC32();
    for (byte[] entry : entries) {
      checksum.update(entry);
      write(entry);
    }
    columns.add(new Column(name, isText, size, start, index, (int) checksum.getValue()));
  }

  /** What was written so far. */
  List<Column> columns() {
    return List.copyOf(columns);
  }

  /**
   * Writes the head and ends the form.
   *
   * @param survey what tells whether the survey is still the same
   * @param digest the survey's SHA-256
   */
  void end(Stamp survey, byte[] digest) throws IOException {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    DataOutputStream head = new DataOutputStream(bytes);
    head.writeLong(survey.size());
    head.writeLong(survey.written());
    head.writeLong(survey.touched());
    head.writeLong(survey.number());
    head.write(digest);
    head.writeInt(columns.size());
    for (Column column : columns) {
      head.writeUTF(column.name());
      head.writeBoolean(column.isText());
      head.writeInt(column.size());
      head.writeLong(column.start());
      head.writeLong(column.index());
      head.writeInt(column.checksum());
    }
    byte[] packed = bytes.toByteArray();
    ByteBuffer trailer =
        ByteBuffer.allocate(TRAILER)
            .putLong(written)
            .putInt(packed.length)
            .putInt(checksum(packed, 0, packed.length));
    write(packed);
    write(trailer.array());
  }

  private void write(byte[] bytes) {
    try {
      out.write(bytes);
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
    written += bytes.length;
  }

  static int checksum(byte[] bytes, int from, int length) {
    CRC32 checksum = new CRC32();
    checksum.update(bytes, from, length);
    return (int) checksum.getValue();
  }
}
