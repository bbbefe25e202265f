package fiador.report.pictures;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What a drawing shows, before anything has a place.
 *
 * @param title what it is about
 * @param origin what it was drawn from, and how old that is
 * @param boxes people, roles and things, each with an id of its own
 * @param lines who gets to what; both ends are ids of boxes
 * @param notes what has to be said below it
 */
public record Figure(
    String title, String origin, List<Box> boxes, List<Line> lines, List<String> notes) {

  /** What a box stands for; the drawing tells them apart by shape. */
  public enum Shape {
    USER,
    ROLE,
    CONTAINER,
    THING
  }

  /**
   * A person, role or thing, or several that are alike.
   *
   * @param id the same from one drawing to the next
   * @param name what it is called
   * @param below a second, smaller line; empty for none
   * @param kind what one of them is called: user, role, table
   * @param in what it lies in; empty where that is said by the name
   * @param ofAll how many of its kind lie there; 0 where that is not known
   * @param members the names of all it stands for
   * @param focus whether the question was about it
   */
  public record Box(
      String id,
      Shape shape,
      String name,
      String below,
      String kind,
      String in,
      int ofAll,
      List<String> members,
      boolean focus) {

    /** One person, role or thing. */
    public static Box one(String id, Shape shape, String name, String kind) {
      return new Box(id, shape, name, "", kind, "", 0, List.of(name), false);
    }

    /** The same, lying in a container with so many of its kind. */
    public Box inside(String container, int all) {
      return new Box(id, shape, name, below, kind, container, all, members, focus);
    }

    /** The same with another second line. */
    public Box saying(String line) {
      return new Box(id, shape, name, line, kind, in, ofAll, members, focus);
    }

    /** The same, as what the question was about. */
    public Box asked() {
      return new Box(id, shape, name, below, kind, in, ofAll, members, true);
    }

    /** How many it stands for. */
    public int count() {
      return members.size();
    }
  }

  /** What a line means; each is told apart by its dashes and its end as well as by its colour. */
  public enum Manner {
    WORKS("works at once"),
    ON_REQUEST("after switching the role on"),
    BLOCKED("held, and blocked"),
    DENIED("denied"),
    LAPSED("its time is over"),
    COMES("comes with the change"),
    GOES("goes with the change");

    private final String text;

    Manner(String text) {
      this.text = text;
    }

    /** What a legend says of it. */
    public String text() {
      return text;
    }
  }

  /**
   * A line from who has something to what is had.
   *
   * @param label what: privileges; empty where the line says all
   */
  public record Line(String from, String to, Manner manner, String label) {}

  /** The boxes by their ids. */
  Map<String, Box> byId() {
    Map<String, Box> found = new LinkedHashMap<>();
    boxes.forEach(box -> found.put(box.id(), box));
    return found;
  }

  Figure with(Collection<Box> otherBoxes, Collection<Line> otherLines) {
    return new Figure(title, origin, List.copyOf(otherBoxes), List.copyOf(otherLines), notes);
  }
}
