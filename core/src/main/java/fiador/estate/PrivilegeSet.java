package fiador.estate;

import java.util.ArrayList;
import java.util.List;
import java.util.StringJoiner;

/**
 * Sets of privileges as the bits of a long. Hot loops use the bare long; this class is where such a
 * long is made and read.
 */
public final class PrivilegeSet {
  /** Each privilege there is, as a mask. */
  public static final long EVERY = -1L;

  private PrivilegeSet() {}

  /** The set of these privileges. */
  public static long of(Privilege... privileges) {
    long bits = 0;
    for (Privilege privilege : privileges) {
      bits |= privilege.bit();
    }
    return bits;
  }

  /** The privileges in the set, in their declared order. */
  public static List<Privilege> list(long bits) {
    List<Privilege> list = new ArrayList<>(Long.bitCount(bits));
    for (long rest = bits; rest != 0; rest &= rest - 1) {
      list.add(Privilege.lowest(rest));
    }
    return list;
  }

  /** The privileges in words: {@code select, insert}. */
  public static String text(long bits) {
    StringJoiner words = new StringJoiner(", ");
    list(bits).forEach(privilege -> words.add(privilege.text()));
    return words.toString();
  }
}
