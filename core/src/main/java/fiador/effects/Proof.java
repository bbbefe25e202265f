package fiador.effects;

import fiador.estate.Privilege;
import java.util.List;

/** A sentence that must hold about who can do something. Names are as somebody wrote them. */
public sealed interface Proof {
  /** What is to be done. */
  Privilege privilege();

  /** On what: a dotted name, perhaps with a column. */
  String object();

  /** A user or role, as a sentence names it. */
  record Who(String name) {}

  /** Somebody can, on all of it. */
  record Can(Who who, Privilege privilege, String object) implements Proof {}

  /** Somebody cannot, not even on a part of it. */
  record Cannot(Who who, Privilege privilege, String object) implements Proof {}

  /** These can, or whoever holds them, and nobody else. */
  record Only(List<Who> who, Privilege privilege, String object) implements Proof {}

  /** Nobody can, but for these or whoever holds them. */
  record Nobody(List<Who> except, Privilege privilege, String object) implements Proof {}

  /** About what somebody gets to see, and not only whether. */
  sealed interface OfSight extends Proof {
    /** About whom. */
    Who who();

    @Override
    default Privilege privilege() {
      return Privilege.SELECT;
    }
  }

  /**
   * Somebody gets that many rows.
   *
   * @param rows how many; -1 for all there are
   */
  record SeesRows(Who who, long rows, String object) implements OfSight {}

  /** Somebody gets the values of a column, masked or as they are. */
  record SeesColumn(Who who, boolean masked, String object) implements OfSight {}
}
