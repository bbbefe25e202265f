package fiador.grants;

import java.util.List;

/**
 * What a survey found beside what grants can say, and what it could not see.
 *
 * @param beside rights and belongings of kinds that nothing else here is about
 * @param unseen kinds of facts that whoever surveyed was not shown
 * @param abroad what is really on another server or in a file
 */
public record Seen(List<Beside> beside, List<Unseen> unseen, Abroad abroad) {
  /** Nothing beside, and everything seen. */
  public static final Seen ALL = new Seen(List.of(), List.of(), Abroad.NONE);

  /** How somebody goes with a thing. */
  public enum Tie {
    /** It is theirs. */
    OWNS,
    /** They were given something on it. */
    MAY,
    /** Something is said there of them. */
    NAMED
  }

  /**
   * A thing of a kind that has no place in the tree, such as a type or a parameter.
   *
   * @param principal who
   * @param tie how they go with it
   * @param what the thing, with its kind and where it is
   */
  public record Beside(int principal, Tie tie, String what) {
    /** What follows a name, such as "owns type a.b". */
    public String text() {
      return switch (tie) {
        case OWNS -> "owns " + what;
        case MAY -> "has rights on " + what;
        case NAMED -> "is named by " + what;
      };
    }
  }

  /**
   * A kind of facts.
   *
   * @param what the kind, such as {@link #SECRETS}
   * @param why what whoever surveyed lacked
   */
  public record Unseen(String what, String why) {}

  /** How accounts prove who they are. */
  public static final String SECRETS = "secrets";

  /** Why such facts were not seen; null where they were. */
  public String whyNot(String what) {
    return unseen.stream()
        .filter(each -> each.what().equals(what))
        .map(Unseen::why)
        .findFirst()
        .orElse(null);
  }

  /** What a principal has beside. */
  public List<Beside> of(int principal) {
    return beside.stream().filter(each -> each.principal() == principal).toList();
  }
}
