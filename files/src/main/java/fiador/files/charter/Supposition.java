package fiador.files.charter;

import fiador.changes.Supposing.Holds;
import fiador.changes.Supposing.May;
import fiador.changes.Supposing.Supposed;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Place;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml;
import fiador.refusal.BadInput;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Reads what somebody supposes: {@code ines.duarte holds billing_read}, or {@code leak_analyst may
 * select on billing.invoices} with the words of a charter's sentence; {@code not} in front supposes
 * that it is taken.
 */
public final class Supposition {
  private static final Pattern SENTENCE =
      Pattern.compile(
          "\\s*(not\\s+)?(\"(?:[^\"]|\"\")+\"|\\S+)\\s+(holds|may)\\s+(.*\\S)\\s*", Pattern.DOTALL);
  private static final Pattern NAME = Pattern.compile("\"(?:[^\"]|\"\")+\"|\\S+");

  private Supposition() {}

  /** One sentence. */
  public static Supposed read(String sentence) throws BadInput {
    Matcher parts = SENTENCE.matcher(sentence);
    if (!parts.matches()) {
      throw new BadInput(
          "cannot suppose \""
              + sentence
              + "\"; write NAME holds ROLE, or NAME may select on OBJECT, with \"not\" in front to"
              + " take it away");
    }
    boolean not = parts.group(1) != null;
    String who = parts.group(2);
    String what = parts.group(4);
    if (parts.group(3).equals("may")) {
      return new May(who, grants(who, what, parts.start(4)), not);
    }
    if (!NAME.matcher(what).matches()) {
      throw new BadInput("\"" + what + "\" is not the name of one role");
    }
    return new Holds(who, what, not);
  }

  private static List<Wanted.Grant> grants(String who, String what, int offset) throws BadInput {
    Place place = new Place("--suppose", 1, offset + 1);
    Mistakes mistakes = new Mistakes();
    Sentence sentence = SentenceReader.read(new Yaml.Scalar(what, false, place), mistakes);
    if (sentence == null) {
      throw new BadInput("cannot suppose \"" + what + "\": " + mistakes.list().get(0).message());
    }
    return CharterLinker.grants(new Yaml.Scalar(who, false, place), sentence);
  }
}
