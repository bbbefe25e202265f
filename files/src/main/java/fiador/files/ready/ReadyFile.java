package fiador.files.ready;

import fiador.columns.Chars;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import java.io.ByteArrayInputStream;
import java.io.DataInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * A ready form that is open. Its head is checked at once, each piece when it is first asked for.
 * Where a piece is damaged, the whole is taken from elsewhere from then on.
 */
final class ReadyFile implements ColumnSource {
  private static final int DIGEST = 32;

  private final ReadyBytes bytes;
  private final Stamp survey;
  private final byte[] digest;
  private final Map<String, Column> columns;
  private final Elsewhere elsewhere;
  private volatile @Nullable ColumnSource instead;

  /** Gives all columns as they should be, where one turns out to be damaged. */
  interface Elsewhere {
    /**
     * The columns.
     *
     * @param why what is the matter
     */
    ColumnSource columns(ReadyFile damaged, String why);
  }

  private ReadyFile(
      ReadyBytes bytes,
      Stamp survey,
      byte[] digest,
      Map<String, Column> columns,
      Elsewhere elsewhere) {
    this.bytes = bytes;
    this.survey = survey;
    this.digest = digest;
    this.columns = columns;
    this.elsewhere = elsewhere;
  }

  /**
   * Opens a ready form. Cost: the same for any size.
   *
   * @param elsewhere asked where something turns out to be damaged
   * @throws UnusableException when it is none, of another version, cut off or its head is damaged
   */
  static ReadyFile open(ReadyBytes bytes, Elsewhere elsewhere)
      throws UnusableException, IOException {
    int least = ReadyWriter.MARK.length + ReadyWriter.TRAILER;
    if (bytes.length() < least) {
      throw new UnusableException("is cut off");
    }
    byte[] mark = bytes.read(0, ReadyWriter.MARK.length);
    if (!Arrays.equals(mark, ReadyWriter.MARK)) {
      throw new UnusableException("is of another version, or no ready form at all");
    }
    long end = bytes.length() - ReadyWriter.TRAILER;
    ByteBuffer trailer = ByteBuffer.wrap(bytes.read(end, ReadyWriter.TRAILER));
    long start = trailer.getLong();
    int length = trailer.getInt();
    if (length < 0 || start != end - length) {
      throw new UnusableException("is cut off or damaged");
    }
    byte[] head = bytes.read(start, length);
    if (ReadyWriter.checksum(head, 0, length) != trailer.getInt()) {
      throw new UnusableException("is damaged in its head");
    }
    DataInputStream in = new DataInputStream(new ByteArrayInputStream(head));
    Stamp survey = new Stamp(in.readLong(), in.readLong(), in.readLong(), in.readLong());
    byte[] digest = in.readNBytes(DIGEST);
    Map<String, Column> columns = new HashMap<>();
    int count = in.readInt();
    for (int i = 0; i < count; i++) {
      String name = in.readUTF();
      columns.put(
          name,
          new Column(
              name, in.readBoolean(), in.readInt(), in.readLong(), in.readLong(), in.readInt()));
    }
    return new ReadyFile(bytes, survey, digest, columns, elsewhere);
  }

  /** What the file it was made of was then. */
  Stamp stamp() {
    return survey;
  }

  /** The SHA-256 of the survey. */
  byte[] digest() {
    return digest.clone();
  }

  @Override
  public Ints ints(String name) {
    Column column = column(name, false);
    Pieces pieces = new Pieces(column);
    return Ints.fetched(
        column.size(),
        number -> {
          int from = number * Ints.PIECE;
          int to = Math.min(column.size(), from + Ints.PIECE);
          return piece(
              column,
              () -> Packing.ints(pieces.read(number), to - from),
              right -> right.ints(name).copy(from, to));
        });
  }

  @Override
  public Chars chars(String name) {
    Column column = column(name, true);
    Pieces pieces = new Pieces(column);
    return Chars.fetched(
        column.size(),
        number -> {
          int from = number * Chars.PIECE;
          int to = Math.min(column.size(), from + Chars.PIECE);
          return piece(
              column,
              () -> Packing.chars(pieces.read(number), to - from),
              right -> right.chars(name).text(from, to));
        });
  }

  /** Whether those are its columns, to the last piece of each, as they were written. */
  boolean has(List<Column> all) {
    return all.size() == columns.size()
        && all.stream().allMatch(column -> column.equals(columns.get(column.name())));
  }

  private interface Unpacking<T> {
    T piece() throws IOException;
  }

  /** A piece as it stands here, or where that is damaged as it should be. */
  private <T> T piece(Column column, Unpacking<T> here, Function<ColumnSource, T> there) {
    ColumnSource other = instead;
    if (other == null) {
      try {
        return here.piece();
      } catch (IOException | IllegalArgumentException damaged) {
        other = elsewhere("is damaged in " + column.name() + ": " + damaged.getMessage());
      }
    }
    return there.apply(other);
  }

  private Column column(String name, boolean isText) {
    Column column = columns.get(name);
    if (column == null || column.isText() != isText) {
      throw new IllegalArgumentException("there is no column " + name);
    }
    return column;
  }

  private synchronized ColumnSource elsewhere(String why) {
    ColumnSource other = instead;
    if (other == null) {
      other = elsewhere.columns(this, why);
      instead = other;
    }
    return other;
  }

  /**
   * Reads and checks all of it.
   *
   * @return how many pieces there are
   * @throws UnusableException when one is damaged
   */
  int verify() throws UnusableException, IOException {
    int count = 0;
    for (Column column : columns.values()) {
      Pieces pieces = new Pieces(column);
      int size = column.isText() ? Chars.pieces(column.size()) : Ints.pieces(column.size());
      for (int number = 0; number < size; number++) {
        try {
          pieces.read(number);
        } catch (IllegalArgumentException damaged) {
          throw new UnusableException(
              "is damaged in " + column.name() + ": " + damaged.getMessage());
        }
        count++;
      }
    }
    return count;
  }

  void close() throws IOException {
    bytes.close();
  }

  /** The pieces of one column, and its index once that was needed. */
  private final class Pieces {
    private final Column column;
    private volatile @Nullable ByteBuffer index;

    Pieces(Column column) {
      this.column = column;
    }

    /**
     * A piece as it is packed.
     *
     * @throws IllegalArgumentException when it is damaged
     */
    byte[] read(int number) throws IOException {
      ByteBuffer known = index;
      if (known == null) {
        known = index();
        index = known;
      }
      int from = number == 0 ? 0 : known.getInt((number - 1) * Column.ENTRY);
      int to = known.getInt(number * Column.ENTRY);
      byte[] packed = bytes.read(column.start() + from, to - from);
      if (ReadyWriter.checksum(packed, 0, packed.length)
          != known.getInt(number * Column.ENTRY + 4)) {
        throw new IllegalArgumentException("piece " + number + " is not as it was written");
      }
      return packed;
    }

    private ByteBuffer index() throws IOException {
      int pieces = column.isText() ? Chars.pieces(column.size()) : Ints.pieces(column.size());
      byte[] read = bytes.read(column.index(), pieces * Column.ENTRY);
      if (ReadyWriter.checksum(read, 0, read.length) != column.checksum()) {
        throw new IllegalArgumentException("the index is not as it was written");
      }
      return ByteBuffer.wrap(read).order(ByteOrder.LITTLE_ENDIAN);
    }
  }
}
