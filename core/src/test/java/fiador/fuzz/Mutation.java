package fiador.fuzz;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Random;

/** Makes broken inputs out of good ones: cut, doubled, stirred, nested without end. */
public final class Mutation {
  private static final List<String> ODD =
      List.of(
          "\u0000",
          "\ufeff",
          "\u202e",
          "\"",
          "'",
          "`",
          "\\",
          "(",
          ")",
          "[",
          "{",
          "}",
          "]",
          "\n",
          "\r\n",
          "\t",
          ": ",
          "- ",
          "&a ",
          "*a",
          "!!x ",
          "--",
          "/*",
          "*/",
          "$$",
          "$x$",
          "%",
          ",",
          "99999999999999999999",
          "-1",
          "1e999",
          "null",
          "true",
          "<!DOCTYPE a [",
          "]]>",
          "&lt;",
          ":< file:///etc/hostname",
          "\ud83d\ude00",
          " or ",
          " and ",
          " not ",
          " in ",
          "select ");

  private static final int MOST_REPEATS = 20_000;

  private final List<byte[]> seeds;
  private final Random random;

  /** Of those texts; the same number always gives the same inputs. */
  public Mutation(List<String> seeds, long seed) {
    this.seeds = seeds.stream().map(s -> s.getBytes(StandardCharsets.UTF_8)).toList();
    this.random = new Random(seed);
  }

  /** The next input. */
  public byte[] next() {
    byte[] made = seeds.get(random.nextInt(seeds.size()));
    int changes = 1 + random.nextInt(4);
    for (int i = 0; i < changes; i++) {
      made = changed(made);
    }
    return made;
  }

  private byte[] changed(byte[] from) {
    int at = random.nextInt(from.length + 1);
    int to = Math.min(from.length, at + random.nextInt(40));
    String odd = ODD.get(random.nextInt(ODD.size()));
    return switch (random.nextInt(7)) {
      case 0 -> Arrays.copyOf(from, at);
      case 1 -> joined(Arrays.copyOf(from, at), Arrays.copyOfRange(from, to, from.length));
      case 2 -> inserted(from, at, odd.getBytes(StandardCharsets.UTF_8));
      case 3 -> inserted(from, at, Arrays.copyOfRange(from, at, to));
      case 4 -> flipped(from, at);
      case 5 -> {
        byte[] other = seeds.get(random.nextInt(seeds.size()));
        int part = random.nextInt(other.length + 1);
        yield joined(Arrays.copyOf(from, at), Arrays.copyOfRange(other, part, other.length));
      }
      default -> {
        // repeats are rare, because they are slow
        int times = random.nextInt(10) == 0 ? 1 + random.nextInt(MOST_REPEATS) : random.nextInt(60);
        yield inserted(from, at, odd.repeat(times).getBytes(StandardCharsets.UTF_8));
      }
    };
  }

  private byte[] flipped(byte[] from, int at) {
    byte[] made = from.clone();
    if (at < made.length) {
      made[at] ^= (byte) (1 << random.nextInt(8));
    }
    return made;
  }

  private static byte[] inserted(byte[] from, int at, byte[] more) {
    return joined(joined(Arrays.copyOf(from, at), more), Arrays.copyOfRange(from, at, from.length));
  }

  private static byte[] joined(byte[] first, byte[] second) {
    ByteArrayOutputStream both = new ByteArrayOutputStream(first.length + second.length);
    both.writeBytes(first);
    both.writeBytes(second);
    return both.toByteArray();
  }
}
