package fiador.effects;

import fiador.estate.NodeKind;
import fiador.grants.Access;
import fiador.grants.Terms;
import fiador.grants.rules.Ownership;

/**
 * The privileges that can occur in an estate, numbered from 0 on in their own order. A set of them
 * is a long, as of privileges.
 */
final class SmallNumbers {
  private final long privileges;

  /** Those of an estate. Cost: its different terms. */
  SmallNumbers(Access access) {
    long all = 0;
    for (int id = 0; id < access.grants().differentTerms(); id++) {
      Terms terms = access.grants().termsAt(id);
      all |= terms.privileges() | terms.grantable();
    }
    boolean byKind =
        access.rules().ownership() != Ownership.NONE || !access.principals().powerful().isEmpty();
    for (NodeKind kind : NodeKind.values()) {
      all |= byKind ? access.rules().privilegesOn(kind) : 0;
    }
    this.privileges = all;
  }

  /** How many there are. */
  int size() {
    return Long.bitCount(privileges);
  }

  /** The number of a privilege; -1 for one that does not occur. */
  int number(long privilege) {
    return (privileges & privilege) == 0 ? -1 : Long.bitCount(privileges & (privilege - 1));
  }

  /** The privilege of a number. */
  long privilege(int number) {
    long rest = privileges;
    for (int i = 0; i < number; i++) {
      rest &= rest - 1;
    }
    return Long.lowestOneBit(rest);
  }

  /** The numbers of those among some privileges that occur. */
  long numbers(long some) {
    long numbers = 0;
    for (long rest = some & privileges; rest != 0; rest &= rest - 1) {
      numbers |= 1L << number(Long.lowestOneBit(rest));
    }
    return numbers;
  }
}
