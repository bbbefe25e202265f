package fiador.files.ledger;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.InflaterInputStream;

/** The pieces of surveys, each kept once under the digest of what is in it. */
final class Pieces {
  private Pieces() {}

  /** Keeps a piece that is not there yet. */
  static void keep(Tables one, String id, byte[] bytes, int length) throws IOException {
    if (one.number("select count(*) from piece where id = ?", id) == 0) {
      // somebody else may be keeping the same one
      one.execute(
          "insert into piece (id, packed) values (?, ?) on conflict do nothing",
          id,
          packed(bytes, length));
    }
  }

  private static byte[] packed(byte[] bytes, int length) throws IOException {
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (DeflaterOutputStream out = new DeflaterOutputStream(packed)) {
      out.write(bytes, 0, length);
    }
    return packed.toByteArray();
  }

  /** Keeps which pieces what was found is made of. */
  static void keepState(Tables one, String state, String ids) throws IOException {
    byte[] list = ids.getBytes(StandardCharsets.US_ASCII);
    one.execute(
        "insert into state (id, pieces) values (?, ?) on conflict do nothing",
        state,
        packed(list, list.length));
  }

  /** The ids of the pieces of what was found. */
  static List<String> ofState(Tables one, String state) throws IOException {
    byte[] list = one.one(row -> row.getBytes(1), "select pieces from state where id = ?", state);
    String ids = new String(unpacked(list).readAllBytes(), StandardCharsets.US_ASCII);
    return List.of(ids.split("\n"));
  }

  /** Pieces in order, each read when it is needed. */
  static InputStream read(LedgerStore store, List<String> ids) {
    return new SequenceInputStream(
        Collections.enumeration(
            new java.util.AbstractList<InputStream>() {
              @Override
              public InputStream get(int index) {
                return piece(store, ids.get(index));
              }

              @Override
              public int size() {
                return ids.size();
              }
            }));
  }

  private static InputStream piece(LedgerStore store, String id) {
    try (InputStream in = unpacked(store.piece(id))) {
      byte[] bytes = in.readAllBytes();
      if (!Digests.hex(Digests.sha256().digest(bytes)).equals(id)) {
        throw new IOException(
            "the ledger " + store.place() + " is damaged: piece " + id + " was altered");
      }
      return new ByteArrayInputStream(bytes);
    } catch (IOException damaged) {
      throw new UncheckedIOException(damaged);
    }
  }

  /**
   * The lines that each of two lists of pieces alone has. Cost: the pieces in which they differ.
   */
  static Differing differing(LedgerStore store, List<String> one, List<String> other)
      throws IOException {
    Map<String, Integer> pieces = counted(one, other);
    Map<String, Integer> lines = new HashMap<>();
    for (Map.Entry<String, Integer> piece : pieces.entrySet()) {
      for (String line : lines(store, piece.getKey())) {
        lines.merge(line, piece.getValue(), Integer::sum);
      }
    }
    List<String> gone = new ArrayList<>();
    List<String> came = new ArrayList<>();
    lines.forEach(
        (line, count) -> {
          if (count != 0) {
            (count > 0 ? gone : came).add(line);
          }
        });
    return new Differing(gone, came);
  }

  /** Lines that one has and the other has not. */
  record Differing(List<String> gone, List<String> came) {}

  /** How much more often each piece stands in the one than in the other, where that differs. */
  private static Map<String, Integer> counted(List<String> one, List<String> other) {
    int same = 0;
    int shorter = Math.min(one.size(), other.size());
    while (same < shorter && one.get(same).equals(other.get(same))) {
      same++;
    }
    Map<String, Integer> counted = new HashMap<>();
    one.subList(same, one.size()).forEach(id -> counted.merge(id, 1, Integer::sum));
    other.subList(same, other.size()).forEach(id -> counted.merge(id, -1, Integer::sum));
    counted.values().removeIf(count -> count == 0);
    return counted;
  }

  private static List<String> lines(LedgerStore store, String id) throws IOException {
    try (InputStream piece = piece(store, id)) {
      return new String(piece.readAllBytes(), StandardCharsets.UTF_8).lines().toList();
    } catch (UncheckedIOException damaged) {
      throw damaged.getCause();
    }
  }

  private static InputStream unpacked(byte[] packed) {
    return new InflaterInputStream(new ByteArrayInputStream(packed));
  }
}
