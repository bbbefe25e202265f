package fiador.grants;

/**
 * How a member holds a role.
 *
 * @param admin the member may give the role to others
 * @param inherit the role counts as soon as the member's own rights do
 * @param set the member may switch to the role
 * @param until the epoch second after which it is over, or {@link Terms#FOREVER}
 * @param implicit the server makes it up; nobody gave it and nobody can revoke it
 */
public record Membership(
    boolean admin, boolean inherit, boolean set, long until, boolean implicit) {
  /** A plain membership without an end. */
  public static final Membership PLAIN = of(false, true, true);

  /** A membership somebody gave, without an end. */
  public static Membership of(boolean admin, boolean inherit, boolean set) {
    return new Membership(admin, inherit, set, Terms.FOREVER, false);
  }

  /** Two at once, from two who gave them: what either allows. */
  public Membership or(Membership other) {
    return of(admin || other.admin, inherit || other.inherit, set || other.set);
  }

  /** Whether it allows something that the other does not. */
  public boolean exceeds(Membership other) {
    return admin && !other.admin || inherit && !other.inherit || set && !other.set;
  }

  /** Whether it is over at that epoch second. */
  public boolean isOver(long epochSecond) {
    return until < epochSecond;
  }

  // written out for the same reason as those of Terms

  @Override
  public boolean equals(Object other) {
    return other instanceof Membership how && how.bits() == bits() && how.until == until;
  }

  @Override
  public int hashCode() {
    return bits() + Long.hashCode(until);
  }

  private int bits() {
    return (admin ? 1 : 0) | (inherit ? 2 : 0) | (set ? 4 : 0) | (implicit ? 8 : 0);
  }
}
