package fiador.proofs;

import fiador.estate.Privilege;
import java.util.List;

/** A sentence that must hold about who can do something. Names are as somebody wrote them. */
public sealed interface Proof {
  /** What is to be done. */
  Privilege privilege();

  /** On what: a dotted name, perhaps with a column. */
  String object();

  /** Whether it looks ahead, at what people could do by their own means. */
  default boolean ever() {
    return false;
  }

  /** A user or role, as a sentence names it. */
  record Who(String name) {}

  /** Somebody can, on all of it. */
  record Can(Who who, Privilege privilege, String object) implements Proof {}

  /**
   * Somebody cannot, not even on a part of it.
   *
   * @param ever whether they cannot make themselves able either
   */
  record Cannot(Who who, Privilege privilege, String object, boolean ever) implements Proof {
    /** As things are. */
    public Cannot(Who who, Privilege privilege, String object) {
      this(who, privilege, object, false);
    }
  }

  /**
   * These can, or whoever holds them, and nobody else.
   *
   * @param ever whether nobody else can make themselves able either
   */
  record Only(List<Who> who, Privilege privilege, String object, boolean ever) implements Proof {
    /** As things are. */
    public Only(List<Who> who, Privilege privilege, String object) {
      this(who, privilege, object, false);
    }
  }

  /**
   * Nobody can, but for these or whoever holds them.
   *
   * @param ever whether nobody else can make themselves able either
   */
  record Nobody(List<Who> except, Privilege privilege, String object, boolean ever)
      implements Proof {
    /** As things are. */
    public Nobody(List<Who> except, Privilege privilege, String object) {
      this(except, privilege, object, false);
    }
  }

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
