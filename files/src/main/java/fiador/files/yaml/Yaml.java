package fiador.files.yaml;

import fiador.changes.wanted.Wanted.Place;
import java.util.List;

/** A YAML tree whose parts know where they stand. */
public sealed interface Yaml {
  Place place();

  /** What it is, in words. */
  String what();

  /**
   * A single value.
   *
   * @param text the value
   * @param quoted whether it was written in quotes
   */
  record Scalar(String text, boolean quoted, Place place) implements Yaml {
    /** The place of a character of the text, where the text stands on one line. */
    public Place at(int offset) {
      return new Place(place.file(), place.line(), place.column() + offset + (quoted ? 1 : 0));
    }

    @Override
    public String what() {
      return text.isEmpty() ? "nothing" : "\"" + text + "\"";
    }
  }

  /** A list. */
  record Sequence(List<Yaml> items, Place place) implements Yaml {
    @Override
    public String what() {
      return "a list";
    }
  }

  /** A mapping, in the order of the file. */
  record Mapping(List<Entry> entries, Place place) implements Yaml {
    @Override
    public String what() {
      return "a mapping";
    }

    /** The value of a key, or null. */
    public Yaml get(String key) {
      for (Entry entry : entries) {
        if (entry.key().text().equals(key)) {
          return entry.value();
        }
      }
      return null;
    }
  }

  /** A key and its value. */
  record Entry(Scalar key, Yaml value) {}
}
