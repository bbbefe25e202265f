package fiador.across;

import fiador.effects.Trace;
import fiador.grants.Abroad;
import fiador.grants.Access;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One step from a foreign table to the rows behind it.
 *
 * @param here the server the table is on
 * @param who as whom the table is read there: who asks, or the owner of a view on the way
 * @param user the account there, or -1
 * @param table the table's node
 * @param node what is read there, or -1
 * @param place the other end
 * @param login as whom it goes on; null where no mapping says so, and for files
 * @param there the other server; null where no survey of it is at hand
 * @param trace why that account may read it or may not; null where it does not come to that
 * @param answer whether rows come
 * @param why what decided, where it was not the right there
 * @param onward the next steps, where what is read there is elsewhere again
 */
public record Leg(
    Access here,
    int who,
    int user,
    int table,
    int node,
    Abroad.Place place,
    Abroad.@Nullable Login login,
    @Nullable Access there,
    @Nullable Trace trace,
    Answer answer,
    @Nullable Why why,
    List<Leg> onward) {

  /**
   * Whether rows come. From best to worst; of several ways that are all needed the worst counts.
   */
  public enum Answer {
    OPEN,
    UNKNOWN,
    CLOSED;

    /** The name for programs. */
    public String text() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  /** What decided before the right there did, or instead of it. */
  public enum Why {
    /** No mapping says as whom they go on. */
    NO_MAPPING,
    /** The mapping keeps no secret, and the server lets only superusers go on without. */
    NO_SECRET,
    /** The mapping keeps no secret; whether the other server asks for one, nobody said. */
    MAYBE_ASKED,
    /** The survey's login was not shown as whom they go on. */
    LOGIN_NOT_SHOWN,
    /** The mapping does not say as whom: the name of the server's process is used. */
    LOGIN_NOT_SAID,
    /** No survey of that server is at hand. */
    NO_SURVEY,
    /** There is no such account there. */
    NO_ACCOUNT,
    /** The account there cannot log in. */
    NO_ENTRY,
    /** There is no such table or database there. */
    NO_TABLE,
    /** There is no such column there. */
    NO_COLUMN,
    /** The survey did not look into that database. */
    NOT_SURVEYED,
    /** The right there counts only after switching a role on, which nobody does on the way. */
    NOT_SWITCHED,
    /** It leads back to where it came from. */
    CIRCLE,
    /** There are more steps than are followed. */
    TOO_MANY,
    /** A file, read with the rights of the server's process. */
    FILE,
    /** What a program puts out that runs with the rights of the server's process. */
    PROGRAM,
    /** A carrier that is not followed. */
    NOT_FOLLOWED;

    /** The name for programs. */
    public String text() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }
  }
}
