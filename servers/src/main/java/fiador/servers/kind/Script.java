package fiador.servers.kind;

import fiador.changes.ordering.Transactions;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.Step;
import fiador.grants.Origin;
import fiador.servers.jdbc.ServerException;
import java.util.List;

/**
 * Steps as a script for the server's own client, in whoever's hands. It holds no secret and sets
 * none, goes to the database each statement belongs in by itself, and stops on another server than
 * the one it was made for. Cost: the steps.
 */
public final class Script {
  private final Dialect dialect;
  private final Origin made;
  private final StringBuilder text = new StringBuilder();

  private Script(Dialect dialect, Origin made) {
    this.dialect = dialect;
    this.made = made;
  }

  /**
   * The script; empty for no steps.
   *
   * @param made the survey it was worked out from
   * @throws ServerException when a database has a name that no client can be told
   */
  public static String of(Dialect dialect, Origin made, List<Step> steps) throws ServerException {
    if (steps.isEmpty()) {
      return "";
    }
    Script script = new Script(dialect, made);
    script.head();
    for (Transactions.Part part : Transactions.of(steps)) {
      script.part(part);
    }
    return script.text.toString();
  }

  private void line(String line) {
    text.append(line).append('\n');
  }

  /** A comment; what others named stays in it whatever it holds. */
  private void comment(String words) {
    line("-- " + words.replaceAll("[\\r\\n\\u0085\\u2028\\u2029]", " "));
  }

  private void head() {
    comment(
        "for "
            + made.server()
            + " ("
            + made.kind()
            + "), worked out from the survey of "
            + made.taken());
    comment("run it with " + dialect.client());
    dialect.scriptHead(made.identity()).forEach(this::line);
  }

  private void part(Transactions.Part part) throws ServerException {
    if (part.steps().isEmpty()) {
      return;
    }
    line("");
    if (part.database() != null) {
      dialect.scriptDatabase(part.database(), made.identity()).forEach(this::line);
    }
    boolean together = dialect.scriptsTogether();
    if (together) {
      line("BEGIN;");
    }
    for (Dialect.Batch batch : dialect.batches(part.steps())) {
      if (batch.steps().get(0) instanceof CreateUser user) {
        comment(user.user() + " has no secret yet and cannot log in: " + dialect.howToSetSecret());
        line(dialect.createWithoutSecret(user.user()) + ";");
      } else {
        line(batch.sql() + ";");
      }
    }
    if (together) {
      line("COMMIT;");
    }
  }
}
