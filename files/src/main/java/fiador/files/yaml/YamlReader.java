package fiador.files.yaml;

import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.fasterxml.jackson.dataformat.yaml.YAMLParser;
import fiador.changes.wanted.Wanted.Place;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.files.yaml.Yaml.Sequence;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.yaml.snakeyaml.LoaderOptions;

/**
 * Reads a YAML file into a {@link Yaml} tree. Aliases are refused, so that no small file can blow
 * up, and nesting is limited.
 */
public final class YamlReader {
  /** The longest file that is read, in characters. */
  public static final int LARGEST = 16 << 20;

  private static final int DEEPEST = 40;

  private final String file;
  private final String[] lines;
  private final Mistakes mistakes;
  private final YAMLParser yaml;

  private YamlReader(String file, String text, Mistakes mistakes) throws IOException {
    this.file = file;
    this.lines = text.split("\n", -1);
    this.mistakes = mistakes;
    LoaderOptions limits = new LoaderOptions();
    limits.setCodePointLimit(LARGEST);
    this.yaml = YAMLFactory.builder().loaderOptions(limits).build().createParser(text);
  }

  /** The tree of a file; null when it is empty or cannot be parsed, which is then noted. */
  public static Yaml read(String file, String text, Mistakes mistakes) throws IOException {
    YamlReader reader = new YamlReader(file, text, mistakes);
    try (YAMLParser parser = reader.yaml) {
      JsonToken first = parser.nextToken();
      if (first == null) {
        return null;
      }
      Yaml tree = reader.value(0);
      if (parser.nextToken() != null) {
        mistakes.add(reader.here(), "a second document; a file holds one");
      }
      return tree;
    } catch (JsonProcessingException malformed) {
      JsonLocation at = malformed.getLocation();
      Place place =
          at == null
              ? new Place(file, 1, 1)
              : new Place(file, Math.max(1, at.getLineNr()), Math.max(1, at.getColumnNr()));
      String why = malformed.getOriginalMessage().lines().findFirst().orElse("");
      mistakes.add(place, "this is not YAML: " + why);
      return null;
    }
  }

  private Place here() {
    JsonLocation at = yaml.currentTokenLocation();
    return new Place(file, at.getLineNr(), at.getColumnNr());
  }

  private Yaml value(int depth) throws IOException {
    Place place = here();
    if (depth > DEEPEST) {
      mistakes.add(place, "nested deeper than " + DEEPEST + " levels");
      yaml.skipChildren();
      return new Scalar("", false, place);
    }
    if (yaml.isCurrentAlias() || yaml.getObjectId() != null) {
      mistakes.add(place, "anchors and aliases (& and *) are not used here; write it out");
    }
    JsonToken token = yaml.currentToken();
    if (token == JsonToken.START_OBJECT) {
      return mapping(place, depth);
    }
    if (token == JsonToken.START_ARRAY) {
      List<Yaml> items = new ArrayList<>();
      while (yaml.nextToken() != JsonToken.END_ARRAY) {
        items.add(value(depth + 1));
      }
      return new Sequence(items, place);
    }
    String text = token == JsonToken.VALUE_NULL ? "" : yaml.getText();
    return new Scalar(text, isQuoted(place), place);
  }

  private Mapping mapping(Place place, int depth) throws IOException {
    List<Entry> entries = new ArrayList<>();
    Map<String, Place> seen = new HashMap<>();
    while (yaml.nextToken() == JsonToken.FIELD_NAME) {
      Place at = here();
      Scalar key = new Scalar(yaml.currentName(), isQuoted(at), at);
      Place before = seen.putIfAbsent(key.text(), at);
      if (before != null) {
        mistakes.add(at, "\"" + key.text() + "\" stands here a second time, after " + before);
      }
      yaml.nextToken();
      entries.add(new Entry(key, value(depth + 1)));
    }
    return new Mapping(entries, place);
  }

  private boolean isQuoted(Place place) {
    if (place.line() > lines.length || place.column() < 1) {
      return false;
    }
    String line = lines[place.line() - 1];
    char c = place.column() <= line.length() ? line.charAt(place.column() - 1) : ' ';
    return c == '"' || c == '\'';
  }
}
