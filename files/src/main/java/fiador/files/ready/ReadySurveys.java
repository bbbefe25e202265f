package fiador.files.ready;

import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * Opens surveys: in their ready form where there is one that can be believed, else by reading all
 * of it, and then has the ready form made for the next question.
 */
public final class ReadySurveys {
  /** What the name of a survey is followed by in that of its ready form. */
  private static final String SUFFIX = ".ready";

  /** How many bytes the ready forms of a ledger may have together. */
  private static final long ROOM = 2L << 30;

  private final Consumer<String> notes;
  private final Consumer<Runnable> afterwards;

  /**
   * @param notes told why a ready form was not believed
   * @param afterwards takes the making of a ready form, to be done once the answer is given
   */
  public ReadySurveys(Consumer<String> notes, Consumer<Runnable> afterwards) {
    this.notes = notes;
    this.afterwards = afterwards;
  }

  /** Where the ready form of a survey is kept: beside it. */
  public static Path of(Path survey) {
    return survey.resolveSibling(survey.getFileName() + SUFFIX);
  }

  /** Takes away the ready form of a survey that is another now. */
  public static void forget(Path survey) throws IOException {
    Path ready = of(survey);
    if (Files.isRegularFile(ready, LinkOption.NOFOLLOW_LINKS)) {
      Files.delete(ready);
    }
  }

  /**
   * Opens a survey. Cost: the same for any size where there is a ready form; else reading it.
   *
   * @throws SurveyException when it cannot be used
   * @throws IOException when it cannot be read
   */
  public Access read(Path survey) throws SurveyException, IOException {
    SurveyWhole whole = new SurveyWhole(survey);
    return Files.isRegularFile(survey)
        ? new ReadyForm(of(survey), whole, notes, afterwards).open()
        : whole.read().access();
  }

  /** The ready forms of what a ledger keeps. */
  public ReadyStates states(Path ledger) {
    return new ReadyStates(ledger, ROOM, notes);
  }

  /**
   * What came of checking a ready form.
   *
   * @param pieces how many pieces were checked; 0 where there is none
   * @param wrong what is the matter with it; null where it is right
   */
  public record Verified(int pieces, @Nullable String wrong) {}

  /** Reads and checks all of the ready form of a survey, and that it is of what the survey says. */
  public static Verified verify(Path survey) throws IOException {
    Path ready = of(survey);
    if (!Files.exists(ready, LinkOption.NOFOLLOW_LINKS)) {
      return new Verified(0, "is not there");
    }
    SurveyWhole whole = new SurveyWhole(survey);
    try {
      ReadyFile file =
          ReadyForm.file(
              ready,
              whole,
              (damaged, why) -> {
                throw new IllegalStateException(why);
              });
      try {
        int pieces = file.verify();
        boolean same = Arrays.equals(file.digest(), whole.digest());
        return new Verified(pieces, same ? null : "is of another survey");
      } finally {
        file.close();
      }
    } catch (UnusableException unusable) {
      return new Verified(0, unusable.getMessage());
    }
  }
}
