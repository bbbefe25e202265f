package fiador.files.yaml;

import fiador.estate.Nearest;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.files.yaml.Yaml.Sequence;
import java.util.ArrayList;
import java.util.List;

/** Takes YAML for what it should be, and notes where it is something else. */
public abstract class Shapes {
  protected final Mistakes mistakes;

  protected Shapes(Mistakes mistakes) {
    this.mistakes = mistakes;
  }

  protected final void unknown(Scalar key, List<String> known, String what) {
    mistakes.add(
        key.place(),
        "there is no "
            + what
            + " \""
            + key.text()
            + "\""
            + Nearest.hint(key.text(), known.stream())
            + (Nearest.to(key.text(), known.stream(), 1).isEmpty()
                ? "; expected one of " + String.join(", ", known)
                : ""));
  }

  protected final Mapping mapping(Yaml yaml, String what) {
    if (yaml instanceof Mapping mapping) {
      return mapping;
    }
    mistakes.add(yaml.place(), "found " + yaml.what() + ", expected " + what);
    return null;
  }

  protected final Scalar scalar(Yaml yaml, String what) {
    if (yaml instanceof Scalar scalar && !scalar.text().isEmpty()) {
      return scalar;
    }
    mistakes.add(yaml.place(), "found " + yaml.what() + ", expected " + what);
    return null;
  }

  protected final List<Yaml> sequence(Yaml yaml, String what) {
    if (yaml instanceof Sequence sequence) {
      return sequence.items();
    }
    mistakes.add(yaml.place(), "found " + yaml.what() + ", expected a list of " + what);
    return List.of();
  }

  protected final List<Scalar> scalars(Yaml yaml, String what) {
    List<Scalar> found = new ArrayList<>();
    for (Yaml item : sequence(yaml, what)) {
      Scalar scalar = scalar(item, what);
      if (scalar != null) {
        found.add(scalar);
      }
    }
    return found;
  }

  protected final String word(Yaml yaml, List<String> known, String what) {
    Scalar scalar = scalar(yaml, "a " + what);
    if (scalar == null) {
      return "";
    }
    if (!known.contains(scalar.text())) {
      unknown(scalar, known, what);
    }
    return scalar.text();
  }
}
