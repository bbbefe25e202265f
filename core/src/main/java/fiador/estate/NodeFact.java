package fiador.estate;

import java.util.Locale;

/** Yes-or-no facts about a node, kept as bits. */
public enum NodeFact {
  /** Belongs to the server itself; answers leave it out unless asked. */
  SYSTEM,
  /** A view that reads, or a routine that runs, with the rights of the user who asks. */
  INVOKER,
  /** A catalog table whose contents the server lets only superusers change. */
  GUARDED,
  /** A database that accepts no connections. */
  CLOSED,
  /** A container whose inside was not surveyed. */
  UNREAD,
  /** A view or routine that is to act with the rights of an account that is no longer there. */
  ORPHANED,
  /** One whose account is gone, and for which another account of that name stands in. */
  DEPUTIZED,
  /** A server that does not find out its clients' host names. */
  ADDRESSES_ONLY,
  /** A server on which PUBLIC is a role that somebody has already used. */
  PUBLIC_USED,
  /** A routine that is called and not used in expressions, where the server tells these apart. */
  PROCEDURE,
  /** A container that opens to nobody who was not let in, whatever powers they have. */
  SEALED;

  /** This fact's bit. */
  public int bit() {
    return 1 << ordinal();
  }

  /** The fact's name in the survey file. */
  public String text() {
    return name().toLowerCase(Locale.ROOT);
  }
}
