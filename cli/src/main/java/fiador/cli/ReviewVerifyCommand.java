package fiador.cli;

import fiador.files.charter.CharterException;
import fiador.files.charter.CharterReader;
import fiador.files.ledger.Chain;
import fiador.files.ledger.Ledger;
import fiador.files.ledger.ReviewBook;
import fiador.files.survey.SurveyException;
import fiador.servers.ServerException;
import java.io.IOException;
import java.nio.charset.MalformedInputException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

final class ReviewVerifyCommand extends Common {
  Path file;
  Path folder = Path.of("");
  String digest;

  @Override
  void options(Options options) {
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
  }

  @Override
  String[] description() {
    return new String[] {
      "Whether an evidence file is as it was written: no entry altered, taken out or put in.",
      "Exit code 1 when it is not."
    };
  }

  @Override
  String[] footer() {
    return new String[] {
      "",
      "Who can write the file can also write it anew from the start; so compare the last digest with the",
      "one that was kept apart (--digest), or with the ledger of the charter here, which is done by itself.",
      "",
      "Examples:",
      "  fiador review verify spring.review.jsonl",
      "  fiador review verify spring.review.jsonl --digest 5f0c..."
    };
  }

  @Override
  int run() throws BadInput, SurveyException, CharterException, ServerException, IOException {
    List<String> lines;
    try {
      lines = Files.readAllLines(file);
    } catch (MalformedInputException notText) {
      throw new BadInput(file + " is no evidence file: it is not UTF-8");
    }
    Chain.Verdict verdict = Chain.check(lines);
    if (!verdict.problems().isEmpty()) {
      out.println("no: " + file + " is not as it was written");
      verdict.problems().forEach(problem -> out.println("  " + problem));
      return Exit.NO;
    }
    if (digest != null && !digest.strip().equalsIgnoreCase(verdict.hash())) {
      out.println("no: the digest at its end is another one than was kept apart");
      out.println("  in the file  " + verdict.hash());
      out.println("  kept apart   " + digest.strip());
      return Exit.NO;
    }
    String compared =
        digest == null ? againstLedger(verdict) : "the digest that was kept apart agrees";
    if (compared.startsWith("no")) {
      out.println(compared);
      return Exit.NO;
    }
    out.println(
        "yes: whole, "
            + verdict.entries()
            + " entries of the review "
            + verdict.review()
            + " from "
            + verdict.from()
            + " to "
            + verdict.to()
            + (verdict.closed() ? "" : "; it was not closed yet"));
    out.println("  " + compared);
    out.println("  " + verdict.hash());
    return Exit.YES;
  }

  private String againstLedger(Chain.Verdict verdict)
      throws BadInput, CharterException, IOException {
    if (!Files.isRegularFile(folder.resolve(CharterReader.ROOT))) {
      return "it was not compared with anything kept apart: give --digest or --charter";
    }
    try (Ledger ledger = Ledgers.existing(folder, Charters.read(folder))) {
      ReviewBook.Kept kept = new ReviewBook(ledger).read(verdict.review());
      if (kept == null) {
        return "no: the ledger knows no review " + verdict.review();
      }
      return kept.hash().equals(verdict.hash())
          ? "the ledger has the same"
          : "no: the ledger has something else for the review " + verdict.review();
    }
  }
}
