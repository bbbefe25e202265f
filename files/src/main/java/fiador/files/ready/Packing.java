package fiador.files.ready;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Packs a piece of a column into as few whole bytes a value as the values need, above the smallest
 * of them.
 */
final class Packing {
  private static final int HEAD = 5;

  private Packing() {}

  /** Packs ints: a byte that says how many bytes each has, the smallest, and what is above it. */
  static byte[] ints(int[] values) {
    int least = Arrays.stream(values).min().orElse(0);
    long most = 0;
    for (int value : values) {
      most = Math.max(most, (long) value - least);
    }
    int width = most == 0 ? 0 : (64 - Long.numberOfLeadingZeros(most) + 7) / 8;
    byte[] packed = new byte[HEAD + width * values.length];
    packed[0] = (byte) width;
    put(packed, 1, least, 4);
    for (int i = 0; i < values.length; i++) {
      put(packed, HEAD + i * width, values[i] - least, width);
    }
    return packed;
  }

  private static void put(byte[] packed, int at, int value, int width) {
    for (int i = 0; i < width; i++) {
      packed[at + i] = (byte) (value >>> 8 * i);
    }
  }

  /**
   * Unpacks ints.
   *
   * @throws IllegalArgumentException when it is not so many ints
   */
  static int[] ints(byte[] packed, int count) {
    int width = packed.length < HEAD ? -1 : packed[0];
    if (width < 0 || width > 4 || packed.length != HEAD + width * count) {
      throw new IllegalArgumentException("no piece of " + count + " numbers");
    }
    int least = get(packed, 1, 4);
    int[] values = new int[count];
    int at = HEAD;
    switch (width) {
      case 0 -> Arrays.fill(values, least);
      case 1 -> {
        for (int i = 0; i < count; i++) {
          values[i] = least + (packed[at + i] & 0xFF);
        }
      }
      case 2 -> {
        for (int i = 0; i < count; i++, at += 2) {
          values[i] = least + (packed[at] & 0xFF | (packed[at + 1] & 0xFF) << 8);
        }
      }
      case 3 -> {
        for (int i = 0; i < count; i++, at += 3) {
          values[i] =
              least
                  + (packed[at] & 0xFF
                      | (packed[at + 1] & 0xFF) << 8
                      | (packed[at + 2] & 0xFF) << 16);
        }
      }
      default -> {
        for (int i = 0; i < count; i++, at += 4) {
          values[i] = least + get(packed, at, 4);
        }
      }
    }
    return values;
  }

  static int get(byte[] packed, int at, int width) {
    int value = 0;
    for (int i = 0; i < width; i++) {
      value |= (packed[at + i] & 0xFF) << 8 * i;
    }
    return value;
  }

  /** Packs characters, in one byte each where that is enough for all of them. */
  static byte[] chars(String values) {
    int all = 0;
    for (int i = 0; i < values.length(); i++) {
      all |= values.charAt(i);
    }
    int width = all < 256 ? 1 : 2;
    byte[] packed = new byte[1 + width * values.length()];
    packed[0] = (byte) width;
    for (int i = 0; i < values.length(); i++) {
      put(packed, 1 + i * width, values.charAt(i), width);
    }
    return packed;
  }

  /**
   * Unpacks characters.
   *
   * @throws IllegalArgumentException when it is not so many characters
   */
  static String chars(byte[] packed, int count) {
    int width = packed.length < 1 ? -1 : packed[0];
    if (width < 1 || width > 2 || packed.length != 1 + width * count) {
      throw new IllegalArgumentException("no piece of " + count + " characters");
    }
    if (width == 1) {
      return new String(packed, 1, count, StandardCharsets.ISO_8859_1);
    }
    char[] values = new char[count];
    for (int i = 0; i < count; i++) {
      values[i] = (char) get(packed, 1 + 2 * i, 2);
    }
    return new String(values);
  }
}
