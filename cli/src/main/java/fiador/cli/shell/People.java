package fiador.cli.shell;

import fiador.evidence.Identities;
import fiador.files.identities.DirectoryReader;
import fiador.files.identities.IdentityReader;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import java.io.IOException;
import java.nio.file.Path;

/** Where the people come from: a file, or a directory. */
public final class People {
  public String source;
  String login;
  String passwordEnv;
  Path before;

  /** Takes them from the command line. */
  public void options(Options options) {
    options.option(
        "--people",
        "SOURCE",
        value -> source = value,
        "The people there are: a file (CSV, LDIF or SCIM JSON), or a directory,",
        "ldaps://host/base (docs/people.md).");
    options.option(
        "--people-login",
        "DN",
        value -> login = value,
        "The account to log in to the directory with; else none.");
    options.option(
        "--people-password-env",
        "VAR",
        value -> passwordEnv = value,
        "The environment variable that holds the secret for that.");
    options.option(
        "--people-before",
        "FILE",
        Path.class,
        value -> before = value,
        "An older list of people, to tell who moved.");
  }

  /** The people there are, or null where no list was given. */
  public Identities read() throws Refusal, IOException {
    if (source == null) {
      return null;
    }
    Identities now = list();
    return before == null ? now : now.after(IdentityReader.read(before));
  }

  private Identities list() throws Refusal, IOException {
    if (!DirectoryReader.isAddress(source)) {
      return IdentityReader.read(Path.of(source));
    }
    String secret = passwordEnv == null ? null : System.getenv(passwordEnv);
    if (login != null && (secret == null || secret.isEmpty())) {
      throw new BadInput(
          passwordEnv == null
              ? "--people-login needs --people-password-env VAR"
              : "the environment has no " + passwordEnv);
    }
    return DirectoryReader.read(source, login, secret);
  }
}
