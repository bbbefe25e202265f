package fiador.findings.check;

import fiador.estate.PrivilegeSet;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/** A sentence with principals and nodes in it by id, so that each reader can show their names. */
public final class Phrase {
  /** A part of a sentence. */
  public sealed interface Part {}

  /** Words as they are. */
  public record Words(String text) implements Part {}

  /** A user or role. */
  public record Who(int principal) implements Part {}

  /**
   * A node, or columns of one.
   *
   * @param columns the ordinals; null for the node
   * @param withKind whether its kind is said before it
   */
  public record Where(int node, BitSet columns, boolean withKind) implements Part {}

  private final List<Part> parts = new ArrayList<>();

  /** Begins with words. */
  public static Phrase of(String words) {
    return new Phrase().say(words);
  }

  /** Goes on with words. */
  public Phrase say(String words) {
    parts.add(new Words(words));
    return this;
  }

  /** Goes on with privileges. */
  public Phrase privileges(long bits) {
    return say(PrivilegeSet.text(bits));
  }

  /** Goes on with a user or role. */
  public Phrase who(int principal) {
    parts.add(new Who(principal));
    return this;
  }

  /** Goes on with some of many users or roles. */
  public Phrase whoOf(Iterable<Integer> principals) {
    int said = 0;
    int all = 0;
    for (int principal : principals) {
      if (++all <= MOST) {
        say(said++ == 0 ? "" : ", ").who(principal);
      }
    }
    return all > MOST ? say(" and " + (all - MOST) + " more") : this;
  }

  private static final int MOST = 3;

  /** Goes on with a node. */
  public Phrase where(int node) {
    parts.add(new Where(node, null, false));
    return this;
  }

  /** Goes on with a node and its kind. */
  public Phrase kindAndWhere(int node) {
    parts.add(new Where(node, null, true));
    return this;
  }

  /** Goes on with columns. */
  public Phrase columns(int node, BitSet columns) {
    parts.add(new Where(node, columns, false));
    return this;
  }

  /** Its parts in order. */
  public List<Part> parts() {
    return List.copyOf(parts);
  }
}
