package fiador.houses;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import java.util.EnumMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * How a kind of server's statements are written.
 *
 * @param client what a script is run with, in words
 * @param patterns the statements there are; a step without one is not possible there
 * @param onKinds how a statement is written where it is about some kind of thing, if otherwise
 * @param words what stands before a thing's name, by kind; nothing for kinds that are not there
 * @param procedure the word before a routine that is called; null for the one of routines
 * @param spelled the server's own words for privileges, where they are not ours in capitals
 * @param undoable whether statements can be undone by rolling back
 */
public record Writing(
    String client,
    Map<Pattern, String> patterns,
    Map<Pattern, Map<NodeKind, String>> onKinds,
    Map<NodeKind, String> words,
    @Nullable String procedure,
    Map<Privilege, String> spelled,
    boolean undoable) {
  /** Nothing can be written. */
  public static final Writing NONE =
      new Writing(
          "the server's own client",
          new EnumMap<>(Pattern.class),
          new EnumMap<>(Pattern.class),
          new EnumMap<>(NodeKind.class),
          null,
          new EnumMap<>(Privilege.class),
          false);

  /** A statement; null where there is none. */
  public @Nullable String of(Pattern pattern) {
    return patterns.get(pattern);
  }

  /** A statement about a kind of thing; null where there is none. */
  public @Nullable String of(Pattern pattern, NodeKind on) {
    String special = onKinds.getOrDefault(pattern, Map.of()).get(on);
    return special == null ? patterns.get(pattern) : special;
  }
}
