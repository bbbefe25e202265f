package fiador.files.ledger;

import java.io.IOException;
import java.io.OutputStream;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Cuts lines into pieces. Where a piece ends depends on the lines alone and not on their number, so
 * a line that came or went changes the piece it stands in and leaves the others as they were. The
 * first line is kept apart: it says when, and so differs each time.
 */
final class PieceStream extends OutputStream {
  private static final int LINES_ON_AVERAGE = 256;
  private static final int LARGEST = 1 << 18;

  /** Takes the pieces as they are found. */
  @FunctionalInterface
  interface Sink {
    void piece(String id, byte[] bytes, int length) throws IOException;
  }

  private final Sink sink;
  private final MessageDigest digest = Digests.sha256();
  private final List<String> ids = new ArrayList<>();
  private byte[] piece = new byte[1 << 15];
  private int length;
  private int lineHash;
  private String head;

  PieceStream(Sink sink) {
    this.sink = sink;
  }

  /** The first line. */
  String head() {
    return head;
  }

  /** The ids of all pieces in order, once closed. */
  List<String> ids() {
    return ids;
  }

  @Override
  public void write(int value) throws IOException {
    write(new byte[] {(byte) value}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int from, int count) throws IOException {
    int copied = from;
    int hash = lineHash;
    for (int i = from; i < from + count; i++) {
      hash = hash * 31 + bytes[i];
      if (bytes[i] == '\n') {
        append(bytes, copied, i + 1);
        copied = i + 1;
        lineHash = hash;
        endOfLine();
        hash = 0;
      }
    }
    append(bytes, copied, from + count);
    lineHash = hash;
  }

  private void append(byte[] bytes, int from, int to) {
    if (length + to - from > piece.length) {
      piece = Arrays.copyOf(piece, Math.max(piece.length * 2, length + to - from));
    }
    System.arraycopy(bytes, from, piece, length, to - from);
    length += to - from;
  }

  private void endOfLine() throws IOException {
    if (head == null) {
      head = new String(piece, 0, length - 1, java.nio.charset.StandardCharsets.UTF_8);
      length = 0;
    } else if (mixed(lineHash) % LINES_ON_AVERAGE == 0 || length >= LARGEST) {
      cut();
    }
    lineHash = 0;
  }

  /** The low bits of the sum alone would depend on the last characters only. */
  private static int mixed(int hash) {
    int mixed = hash * 0x9E3779B1;
    return (mixed ^ mixed >>> 15) >>> 1;
  }

  private void cut() throws IOException {
    if (length > 0) {
      digest.update(piece, 0, length);
      String id = Digests.hex(digest.digest());
      ids.add(id);
      sink.piece(id, piece, length);
      length = 0;
    }
  }

  @Override
  public void close() throws IOException {
    cut();
  }
}
