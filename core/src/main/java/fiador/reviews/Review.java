package fiador.reviews;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A review: what was asked, and what was answered so far. */
public final class Review {
  private final String name;
  private final String server;
  private final Instant opened;
  private final Map<String, Line> lines = new LinkedHashMap<>();
  private final Map<String, Decision> decisions = new LinkedHashMap<>();
  private Instant closed;

  /** One that was just opened. */
  public Review(String name, String server, Instant opened, List<Line> asked) {
    this.name = name;
    this.server = server;
    this.opened = opened;
    asked.forEach(line -> lines.put(line.key(), line));
  }

  /** Its name. */
  public String name() {
    return name;
  }

  /** The server it is about. */
  public String server() {
    return server;
  }

  /** When it was opened. */
  public Instant opened() {
    return opened;
  }

  /** When it was closed; null while it is open. */
  public Instant closed() {
    return closed;
  }

  /** All lines, in order. */
  public List<Line> lines() {
    return List.copyOf(lines.values());
  }

  /** The line of that key, or null. */
  public Line line(String key) {
    return lines.get(key);
  }

  /** The lines of a reviewer, in order. */
  public List<Line> linesOf(String reviewer) {
    return lines.values().stream().filter(line -> line.reviewer().equals(reviewer)).toList();
  }

  /** All reviewers, in the order of their first lines. */
  public List<String> reviewers() {
    return lines.values().stream().map(Line::reviewer).distinct().toList();
  }

  /** What was decided on a line; null while nothing was. */
  public Decision decision(String key) {
    return decisions.get(key);
  }

  /** Records a decision; the last one counts. */
  public void decide(String key, Decision decision) {
    if (!lines.containsKey(key)) {
      throw new IllegalArgumentException("there is no line " + key);
    }
    decisions.put(key, decision);
  }

  /** Asks again with the facts of today: decisions on lines that are as they were stay. */
  public void refresh(List<Line> fresh) {
    List<Line> all = new ArrayList<>(fresh);
    lines.clear();
    all.forEach(line -> lines.put(line.key(), line));
    decisions.keySet().retainAll(lines.keySet());
  }

  /** Closes it. */
  public void close(Instant at) {
    closed = at;
  }

  /** How many lines have an answer. */
  public int decided() {
    return decisions.size();
  }
}
