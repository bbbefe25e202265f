package fiador.grants.rules;

import java.nio.charset.StandardCharsets;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What names a server takes and how it keeps them.
 *
 * @param folding what happens to the letters of an unquoted name
 * @param quote the character that stands around a name to keep its letters
 * @param principals how long the name of a user or role may be
 * @param things how long the name of a table or view may be
 * @param keepsBlanks whether blanks at the end of a user's or role's name are kept
 * @param allPlanes whether such a name may hold characters beyond the basic plane of Unicode
 * @param own names of users and roles, without a host, that are the server's own
 * @param ownPrefixes how names that are the server's own begin
 */
public record NameRules(
    Folding folding,
    char quote,
    Length principals,
    Length things,
    boolean keepsBlanks,
    boolean allPlanes,
    Set<String> own,
    Set<String> ownPrefixes) {

  /** What a length is counted in. */
  public enum Unit {
    BYTES,
    CHARACTERS
  }

  /** The most of a name that is kept. */
  public record Length(int most, Unit unit) {
    int of(String name) {
      return unit == Unit.BYTES
          ? name.getBytes(StandardCharsets.UTF_8).length
          : name.codePointCount(0, name.length());
    }

    boolean holds(String name) {
      return of(name) <= most;
    }
  }

  /**
   * Whether a user or role of that name, without a host, is the server's own, and no matter of any
   * charter.
   */
  public boolean isOwn(String name) {
    return own.contains(name) || ownPrefixes.stream().anyMatch(name::startsWith);
  }

  /**
   * Why a user or role cannot have that name here, or null if it can. A server that cuts names off
   * without a word would make another principal than the one meant.
   *
   * @param kind the kind of server, for the message
   */
  @Nullable String refusal(String kind, String name) {
    if (name.equals("PUBLIC")) {
      return "PUBLIC is everybody, and no name for a user or role";
    }
    if (!principals.holds(name)) {
      String unit = principals.unit() == Unit.BYTES ? "bytes" : "characters";
      return "%s keeps %d %s of a name, and this one has %d"
          .formatted(kind, principals.most(), unit, principals.of(name));
    }
    if (!keepsBlanks && name.endsWith(" ")) {
      return kind + " does not keep blanks at the end of a name";
    }
    boolean beyond = name.codePointCount(0, name.length()) < name.length();
    return beyond && !allPlanes
        ? kind + "'s names hold no characters beyond the basic plane of Unicode"
        : null;
  }

  /**
   * A thing's name made of another's and an ending, short enough to be kept whole. Where it would
   * be too long, the other name is cut and marked, so that no two become one.
   */
  public String with(String name, String ending) {
    if (things.holds(name + ending)) {
      return name + ending;
    }
    String mark = "_" + Integer.toHexString(name.hashCode() | 0x1000_0000);
    String cut = name;
    while (!things.holds(cut + mark + ending)) {
      cut = cut.substring(0, cut.offsetByCodePoints(cut.length(), -1));
    }
    return cut + mark + ending;
  }
}
