package fiador.report.pictures;

import fiador.effects.State;
import java.util.List;

/**
 * Who can do what where, as a table.
 *
 * @param title what it is about
 * @param origin what it was made from, and how old that is
 * @param columns names of schemas or things
 * @param rows people or roles, those with the same cells in one
 * @param notes what has to be said below it
 */
public record Matrix(
    String title, String origin, List<String> columns, List<Row> rows, List<String> notes) {

  /** How much somebody can do; each includes those before. */
  public enum Level {
    NONE(""),
    COLUMNS("some columns"),
    READ("read"),
    CHANGE("change"),
    OWN("own");

    private final String text;

    Level(String text) {
      this.text = text;
    }

    /** The word in the cell. */
    public String text() {
      return text;
    }
  }

  /**
   * One cell.
   *
   * @param level the most that works, or else the most that is held
   * @param state of that
   * @param on on how many things
   * @param of how many there are
   * @param limited whether a policy hides rows or masks values of what is read
   */
  public record Cell(Level level, State state, int on, int of, boolean limited) {
    static final Cell EMPTY = new Cell(Level.NONE, State.LIVE, 0, 0, false);

    /** The second line of a cell: how far it goes. */
    String extent() {
      String part = on == of ? "" : on + " of " + of;
      String policy = limited ? "by policy" : "";
      return part.isEmpty() || policy.isEmpty() ? part + policy : part + ", " + policy;
    }

    /** What the word in the cell is followed by. */
    String standing() {
      return switch (state) {
        case LIVE -> "";
        case ON_REQUEST -> "on request";
        case BLOCKED -> "blocked";
        case DENIED -> "denied";
        case LAPSED -> "lapsed";
      };
    }
  }

  /**
   * One row.
   *
   * @param names of all who have these cells
   * @param kind what one of them is called
   */
  public record Row(List<String> names, String kind, List<Cell> cells) {
    /** What stands in front of it. */
    String head() {
      return names.size() == 1 ? names.get(0) : names.size() + " " + kind + "s";
    }

    /** The second line of that: who they are. */
    String below() {
      int shown = Math.min(3, names.size());
      return names.size() == 1
          ? ""
          : String.join(", ", names.subList(0, shown)) + (names.size() > shown ? ", ..." : "");
    }
  }
}
