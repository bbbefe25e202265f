package fiador.files.ready;

import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import org.jspecify.annotations.Nullable;

/** A survey file. */
record SurveyWhole(Path survey) implements Whole {
  @Override
  public String called() {
    return "the survey";
  }

  @Override
  public Path keeper() {
    return survey;
  }

  @Override
  public void check(ReadyFile form) throws UnusableException, IOException {
    if (!form.stamp().equals(Stamp.of(survey))) {
      throw new UnusableException("is of an older survey");
    }
  }

  @Override
  public Read read() throws SurveyException, IOException {
    if (!Files.isRegularFile(survey)) {
      return new Read(SurveyReader.read(survey), () -> null);
    }
    Stamp before = Stamp.of(survey);
    boolean settled = before.settles();
    Access access = SurveyReader.read(survey);
    return new Read(access, () -> settled ? label(before) : null);
  }

  private @Nullable Label label(Stamp before) throws IOException {
    boolean same = before.equals(Stamp.of(survey));
    byte[] digest = same ? digest() : new byte[0];
    return same && before.equals(Stamp.of(survey)) ? new Label(before, digest) : null;
  }

  /** The SHA-256 of what is in it. */
  byte[] digest() throws IOException {
    try (InputStream in = Files.newInputStream(survey)) {
      MessageDigest digest = MessageDigest.getInstance("SHA-256");
      byte[] buffer = new byte[1 << 16];
      for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
        digest.update(buffer, 0, read);
      }
      return digest.digest();
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException("every Java has SHA-256", never);
    }
  }
}
