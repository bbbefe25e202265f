package fiador.cli.review;

import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterReader;
import fiador.files.ledger.Chain;
import fiador.files.ledger.Ledger;
import fiador.files.ledger.ReviewBook;
import fiador.files.ledger.ReviewKey;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.work.charters.Charters;
import fiador.work.charters.Ledgers;
import java.io.IOException;
import java.nio.charset.MalformedInputException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

public final class ReviewVerifyCommand extends Common {
  Path file;
  Path folder = Path.of("");
  String digest;
  String key;

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter("FILE", Path.class, value -> file = value, "The evidence file.");
    options.option(
        "--charter",
        "DIR",
        Path.class,
        value -> folder = value,
        "The charter whose ledger it is compared with; else the one here, if any.");
    options.option(
        "--digest", "DIGEST", value -> digest = value, "The digest that was kept apart.");
    options.option(
        "--key",
        "KEY",
        value -> key = value,
        "The public part of a key whose signature counts; else those of the charter.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Whether an evidence file is as it was written: no entry altered, taken out or put in.",
      "Exit code 1 when it is not, or when nothing kept elsewhere says that it is."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Who can write the file and the ledger can make both anew from the start. What shows that is a",
      "signature by a key they have not (fiador review key), or the last digest kept apart (--digest).",
      "",
      "Examples:",
      "  fiador review verify spring.review.jsonl",
      "  fiador review verify spring.review.jsonl --digest 5f0c..."
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    List<String> lines = new ArrayList<>();
    List<String> signatures = new ArrayList<>();
    try {
      for (String line : Files.readAllLines(file)) {
        (ReviewKey.isSignature(line) ? signatures : lines).add(line);
      }
    } catch (MalformedInputException notText) {
      throw new BadInput(file + " is no evidence file: it is not UTF-8");
    }
    Chain.Verdict verdict = Chain.check(lines);
    if (!verdict.problems().isEmpty()) {
      out.println("no: " + file + " is not as it was written");
      verdict.problems().forEach(problem -> out.println("  " + problem));
      return Exit.NO;
    }
    boolean chartered = Files.isRegularFile(folder.resolve(CharterReader.ROOT));
    Charter charter = chartered ? Charters.read(folder) : null;
    List<String> facts = new ArrayList<>();
    String problem = problem(verdict, charter, facts);
    if (problem != null) {
      out.println("no: " + problem);
      facts.forEach(fact -> out.println("  " + fact));
      return Exit.NO;
    }
    boolean signed = signed(verdict, signatures, charter, facts);
    boolean anchored = signed || digest != null;
    out.println(
        (anchored ? "yes: whole, " : "not known: whole in itself, not anchored, ")
            + verdict.entries()
            + " entries of the review "
            + verdict.review()
            + " from "
            + verdict.from()
            + " to "
            + verdict.to()
            + (verdict.closed() ? "" : "; it was not closed yet"));
    facts.forEach(fact -> out.println("  " + fact));
    verdict.people().forEach(who -> out.println("  " + who));
    out.println("  " + verdict.hash());
    if (!anchored) {
      out.println(
          "  who can write the file and the ledger can make both anew: give the digest that was kept"
              + " apart (--digest), or sign (fiador review key)");
    }
    return anchored ? Exit.YES : Exit.NO;
  }

  /** What is kept elsewhere and says something else; null where all agree. */
  private String problem(Chain.Verdict verdict, Charter charter, List<String> facts)
      throws Refusal, IOException {
    if (digest != null && !digest.strip().equalsIgnoreCase(verdict.hash())) {
      facts.add("in the file  " + verdict.hash());
      facts.add("kept apart   " + digest.strip());
      return "the digest at its end is another one than was kept apart";
    }
    if (digest != null) {
      facts.add("the digest that was kept apart agrees");
      return null;
    }
    if (charter == null) {
      return null;
    }
    try (Ledger ledger = Ledgers.existing(folder, charter)) {
      ReviewBook.Kept kept = new ReviewBook(ledger).read(verdict.review());
      if (kept == null) {
        return "the ledger knows no review " + verdict.review();
      } else if (!kept.hash().equals(verdict.hash())) {
        return "the ledger has something else for the review " + verdict.review();
      }
      facts.add("the ledger has the same");
      return null;
    }
  }

  private boolean signed(
      Chain.Verdict verdict, List<String> signatures, Charter charter, List<String> facts) {
    Map<String, String> names = new HashMap<>();
    if (charter != null) {
      charter.reviewKeys().forEach((name, known) -> names.put(known, name));
    }
    if (key != null) {
      names.putIfAbsent(key.strip(), "the key given");
    }
    boolean found = false;
    for (String line : signatures) {
      String by = ReviewKey.signer(line, verdict.review(), verdict.hash(), names.keySet());
      if (by != null) {
        facts.add("signed by " + names.get(by) + ", who had the key " + by);
        found = true;
      } else {
        facts.add(
            "a signature in it is by no known key, or of something else: it counts for nothing");
      }
    }
    return found;
  }
}
