package fiador.files.charter;

import fiador.changes.steps.SetPower;
import fiador.estate.Power;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Scalar;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/** Reads what may stand at roles and at users alike. */
class PrincipalKeys extends Shapes {
  final Draft draft;

  PrincipalKeys(Mistakes mistakes, Draft draft) {
    super(mistakes);
    this.draft = draft;
  }

  final void knownIn(Scalar name, Yaml value) {
    Scalar database = scalar(value, "the name of a database");
    if (database != null) {
      draft.knownIn.put(name.text(), database.text());
    }
  }

  final void powers(Scalar name, Yaml value) {
    List<String> known = SetPower.SETTABLE.stream().map(Power::text).sorted().toList();
    Set<Power> powers = EnumSet.noneOf(Power.class);
    for (Scalar written : scalars(value, "powers")) {
      if (known.contains(written.text())) {
        powers.add(Power.named(written.text()));
      } else {
        unknown(written, known, "power that can be set,");
      }
    }
    draft.powers.put(name.text(), powers);
  }

  final void was(Scalar name, Yaml value) {
    Scalar before = scalar(value, "the name it had before");
    if (before != null) {
      draft.was.put(name.text(), before);
    }
  }

  final List<Sentence> sentences(Entry entry) {
    List<Sentence> found = new ArrayList<>();
    List<Scalar> texts = scalars(entry.value(), "grant sentences");
    for (int i = 0; i < texts.size(); i++) {
      boolean cutOff =
          isBesides(texts.get(i), texts.get(Math.max(0, i - 1)))
              || isBesides(texts.get(i), texts.get(Math.min(texts.size() - 1, i + 1)));
      Sentence sentence =
          cutOff
              ? SentenceReader.readPiece(texts.get(i), mistakes)
              : SentenceReader.read(texts.get(i), mistakes);
      if (sentence != null) {
        found.add(sentence);
      }
    }
    return found;
  }

  /** Whether a comma between two may have been meant to stand in a sentence. */
  private static boolean isBesides(Scalar one, Scalar other) {
    return !one.equals(other)
        && !one.quoted()
        && !other.quoted()
        && one.place().line() == other.place().line();
  }
}
