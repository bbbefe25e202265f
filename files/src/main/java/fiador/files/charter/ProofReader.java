package fiador.files.charter;

import fiador.estate.Nearest;
import fiador.estate.Privilege;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import fiador.proofs.Proof;
import fiador.proofs.Proof.Who;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Reads proof sentences:
 *
 * <pre>
 * WHO can PRIVILEGE OBJECT            WHO cannot PRIVILEGE OBJECT
 * only WHO can PRIVILEGE OBJECT       nobody can PRIVILEGE OBJECT [except WHO]
 * nobody but WHO can PRIVILEGE OBJECT
 * WHO can never PRIVILEGE OBJECT      only WHO can ever ...  nobody can ever ...
 * WHO sees N|all|no rows of TABLE     WHO sees TABLE.COLUMN masked|clear
 * </pre>
 *
 * WHO is {@code [user|role] name}, several with {@code and} or commas.
 */
final class ProofReader {
  private static final Pattern SENTENCE =
      Pattern.compile(
          "(?<who>.+?) (?<can>can|cannot)(?<ahead> ever| never)? (?<what>[a-z ]+?) (?<on>\\S.*)");
  private static final Pattern EXCEPT = Pattern.compile("(?<on>.+?) except (?<who>.+)");
  private static final Pattern ROWS =
      Pattern.compile("(?<who>.+?) sees (?<rows>all|no|\\d{1,15}) rows? of (?<on>\\S.*)");
  private static final Pattern COLUMN =
      Pattern.compile("(?<who>.+?) sees (?<on>\\S+) (?<how>masked|clear)");

  private final Mistakes mistakes;

  ProofReader(Mistakes mistakes) {
    this.mistakes = mistakes;
  }

  /** The proof; null when it has mistakes, which are noted. */
  Proof read(Scalar text) {
    String sentence = text.text().strip().replaceAll("\\s+", " ");
    Matcher rows = ROWS.matcher(sentence);
    if (rows.matches()) {
      String count = rows.group("rows");
      long wanted = count.equals("all") ? -1 : count.equals("no") ? 0 : Long.parseLong(count);
      return new Proof.SeesRows(names(rows.group("who")).get(0), wanted, rows.group("on"));
    }
    Matcher column = COLUMN.matcher(sentence);
    if (column.matches()) {
      boolean masked = column.group("how").equals("masked");
      return new Proof.SeesColumn(names(column.group("who")).get(0), masked, column.group("on"));
    }
    Matcher matcher = SENTENCE.matcher(sentence);
    if (!matcher.matches()) {
      mistakes.add(
          text.place(),
          "found \""
              + sentence
              + "\", expected a proof such as \"ines can select billing.invoices\", \"only role x can"
              + " ...\", \"nobody can ... except role y\", \"ines sees 41 rows of ...\" or \"ines"
              + " sees ... masked\"");
      return null;
    }
    return proof(text, matcher);
  }

  private Proof proof(Scalar text, Matcher matcher) {
    String on = matcher.group("on");
    String what = matcher.group("what");
    Privilege privilege = Privilege.named(what);
    // names of privileges may have blanks, so the longest one that fits is meant
    for (String[] words = on.split(" ", 2); words.length > 1; words = on.split(" ", 2)) {
      Privilege longer = Privilege.named(what + " " + words[0]);
      if (longer == null) {
        break;
      }
      what = what + " " + words[0];
      privilege = longer;
      on = words[1];
    }
    if (privilege == null) {
      int at = text.text().indexOf(what);
      mistakes.add(
          text.at(Math.max(0, at)),
          "there is no privilege \""
              + what
              + "\""
              + Nearest.hint(what, Arrays.stream(Privilege.values()).map(Privilege::text)));
      return null;
    }
    return proof(text, matcher, privilege, on);
  }

  private Proof proof(Scalar text, Matcher matcher, Privilege privilege, String on) {
    String who = matcher.group("who");
    String ahead = matcher.group("ahead");
    boolean ever = ahead != null;
    boolean can = matcher.group("can").equals("can");
    boolean never = " never".equals(ahead);
    if (who.equals("nobody") && can && !never) {
      Matcher except = EXCEPT.matcher(on);
      return except.matches()
          ? new Proof.Nobody(names(except.group("who")), privilege, except.group("on"), ever)
          : new Proof.Nobody(List.of(), privilege, on, ever);
    } else if (who.startsWith("nobody but ") && can && !never) {
      return new Proof.Nobody(names(who.substring("nobody but ".length())), privilege, on, ever);
    } else if (who.startsWith("only ") && can && !never) {
      return new Proof.Only(names(who.substring("only ".length())), privilege, on, ever);
    }
    boolean several = who.startsWith("nobody") || who.startsWith("only ");
    if (!ever || !several && can == never) {
      Who one = names(who).get(0);
      return can && !never
          ? new Proof.Can(one, privilege, on)
          : new Proof.Cannot(one, privilege, on, ever);
    }
    mistakes.add(
        text.place(),
        "found \""
            + text.text().strip()
            + "\", expected \"... can never ...\", \"only ... can ever ...\" or \"nobody can ever"
            + " ...\"");
    return null;
  }

  private static List<Who> names(String text) {
    List<Who> found = new ArrayList<>();
    for (String part : text.split(" and |, ?", 0)) {
      found.add(new Who(part.strip().replaceFirst("^(user|role) ", "")));
    }
    return found;
  }
}
