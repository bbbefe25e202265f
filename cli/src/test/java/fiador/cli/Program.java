package fiador.cli;

import fiador.cli.change.SecretCommand;
import fiador.cli.change.SettleCommand;
import fiador.cli.shell.Typist;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.function.ToIntBiFunction;

/** Runs the program in this JVM and keeps what it said. */
public final class Program {
  public final int code;
  public final String out;
  public final String err;

  private Program(int code, String out, String err) {
    this.code = code;
    this.out = out;
    this.err = err;
  }

  public static Program run(String... args) {
    return run((out, err) -> Main.run(out, err, args));
  }

  /** Settles with the same secret for whoever is new. */
  static Program settle(String secret, String... args) {
    SettleCommand command = new SettleCommand();
    command.otherSecrets = user -> secret.toCharArray();
    return run(
        (out, err) -> {
          command.terminal = err;
          return Main.run(command, "settle", out, err, args);
        });
  }

  /** Sets secrets, with somebody at the terminal or, for null, without. */
  static Program secret(Typist typist, String... args) {
    SecretCommand command = new SecretCommand();
    command.typist = typist;
    return run((out, err) -> Main.run(command, "secret", out, err, args));
  }

  private static Program run(ToIntBiFunction<PrintStream, PrintStream> program) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    int code =
        program.applyAsInt(
            new PrintStream(out, true, StandardCharsets.UTF_8),
            new PrintStream(err, true, StandardCharsets.UTF_8));
    return new Program(
        code, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
  }
}
