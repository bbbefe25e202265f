package fiador.proofs;

import fiador.estate.Privilege;
import java.util.List;
import java.util.function.UnaryOperator;

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

  /** The same about those whom the names stand for. */
  Proof named(UnaryOperator<String> names);

  /** A user or role, as a sentence names it. */
  record Who(String name) {
    Who named(UnaryOperator<String> names) {
      return new Who(names.apply(name));
    }

    private static List<Who> named(List<Who> all, UnaryOperator<String> names) {
      return all.stream().map(one -> one.named(names)).toList();
    }
  }

  /** Somebody can, on all of it. */
  record Can(Who who, Privilege privilege, String object) implements Proof {
    @Override
    public Proof named(UnaryOperator<String> names) {
      return new Can(who.named(names), privilege, object);
    }
  }

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

    @Override
    public Proof named(UnaryOperator<String> names) {
      return new Cannot(who.named(names), privilege, object, ever);
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

    @Override
    public Proof named(UnaryOperator<String> names) {
      return new Only(Who.named(who, names), privilege, object, ever);
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

    @Override
    public Proof named(UnaryOperator<String> names) {
      return new Nobody(Who.named(except, names), privilege, object, ever);
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
  record SeesRows(Who who, long rows, String object) implements OfSight {
    @Override
    public Proof named(UnaryOperator<String> names) {
      return new SeesRows(who.named(names), rows, object);
    }
  }

  /** Somebody gets the values of a column, masked or as they are. */
  record SeesColumn(Who who, boolean masked, String object) implements OfSight {
    @Override
    public Proof named(UnaryOperator<String> names) {
      return new SeesColumn(who.named(names), masked, object);
    }
  }
}
