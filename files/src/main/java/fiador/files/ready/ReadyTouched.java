package fiador.files.ready;

import fiador.files.Kept;
import fiador.files.WholeFile;
import fiador.history.Touched;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Whom the change from one state of a ledger to another may concern, in a small file beside the
 * ledger. One that is cut off, damaged, of another change or from somebody who may not write the
 * ledger is not believed; it is made anew.
 */
public final class ReadyTouched {
  private static final String MARK = "fiador touched 2\n";
  private static final int DIGEST = 32;

  /** So many names are soon read; with more, whoever asks may as well look. */
  private static final int MOST = 50_000;

  private final Path file;
  private final Path ledger;
  private final String of;

  /**
   * Of one change.
   *
   * @param ledger the ledger's file
   * @param from names the state before
   * @param to names the state after
   */
  public ReadyTouched(Path ledger, String from, String to) {
    this.ledger = ledger;
    this.of = from + "\n" + to;
    byte[] name = sha256(of.getBytes(StandardCharsets.UTF_8));
    this.file = ReadyStates.folder(ledger).resolve(HexFormat.of().formatHex(name) + ".touched");
  }

  private static byte[] sha256(byte[] bytes) {
    try {
      return MessageDigest.getInstance("SHA-256").digest(bytes);
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException("every Java has SHA-256", never);
    }
  }

  /** What is kept; null for nothing that can be believed. */
  public @Nullable Touched read() {
    try {
      if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS) || !Kept.trusts(ledger, file)) {
        return null;
      }
      byte[] all = Files.readAllBytes(file);
      int length = all.length - DIGEST;
      boolean whole =
          length > 0
              && Arrays.equals(
                  Arrays.copyOfRange(all, length, all.length), sha256(Arrays.copyOf(all, length)));
      return whole ? taken(new DataInputStream(new ByteArrayInputStream(all, 0, length))) : null;
    } catch (IOException unreadable) {
      return null;
    }
  }

  private @Nullable Touched taken(DataInputStream in) throws IOException {
    if (!in.readUTF().equals(MARK) || !in.readUTF().equals(of)) {
      return null;
    }
    boolean things = in.readBoolean();
    boolean all = in.readBoolean();
    Set<String> names = new HashSet<>();
    for (int left = in.readInt(); left > 0; left--) {
      names.add(in.readUTF());
    }
    Set<Integer> tables = new HashSet<>();
    for (int left = in.readInt(); left > 0; left--) {
      tables.add(in.readInt());
    }
    return new Touched(names, things, all, tables);
  }

  /** Keeps it; where that cannot be, it is worked out again the next time. */
  public void write(Touched known) {
    try {
      Touched kept = known.names().size() > MOST ? Touched.ANYBODY : known;
      ByteArrayOutputStream bytes = new ByteArrayOutputStream();
      DataOutputStream out = new DataOutputStream(bytes);
      out.writeUTF(MARK);
      out.writeUTF(of);
      out.writeBoolean(kept.things());
      out.writeBoolean(kept.all());
      out.writeInt(kept.names().size());
      for (String name : kept.names()) {
        out.writeUTF(name);
      }
      out.writeInt(kept.tables().size());
      for (int table : kept.tables()) {
        out.writeInt(table);
      }
      byte[] body = bytes.toByteArray();
      WholeFile.write(
          file,
          to -> {
            to.write(body);
            to.write(sha256(body));
          });
    } catch (IOException notOurs) {
      // the answer is right without it
    }
  }
}
