package fiador.work.secrets;

import fiador.changes.steps.CreateUser;
import fiador.changes.steps.Step;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.servers.live.SettleRun;
import java.nio.CharBuffer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The secrets of users that a change creates. */
public final class NewSecrets {
  private NewSecrets() {}

  /** Asks somebody who sits there. */
  @FunctionalInterface
  public interface Ask {
    /** The secret of a new user as it was typed; null or empty where nobody typed one. */
    char @Nullable [] secretOf(String user);
  }

  /**
   * All of them before the first statement, so that none is missed half-way.
   *
   * @param ask null where nobody can be asked
   */
  public static SettleRun.Secrets of(Access before, List<Step> steps, @Nullable Ask ask)
      throws BadInput {
    List<String> fresh = new ArrayList<>();
    for (Step step : steps) {
      if (step instanceof CreateUser user) {
        fresh.add(user.user());
      }
    }
    UserSecrets variables = UserSecrets.of(before, fresh);
    Map<String, char[]> secrets = new HashMap<>();
    List<String> missing = new ArrayList<>();
    for (String user : fresh) {
      String value = variables.of(user);
      if (value != null) {
        secrets.put(user, value.toCharArray());
      } else if (ask != null) {
        char[] typed = ask.secretOf(user);
        if (typed == null || typed.length == 0) {
          throw new BadInput("no secret for " + user + "; nothing was changed");
        }
        UserSecrets.whole("what was typed", CharBuffer.wrap(typed));
        secrets.put(user, typed);
      } else {
        missing.add(variables.variable(user));
      }
    }
    if (!missing.isEmpty()) {
      throw new BadInput(
          "new users need secrets, and the environment does not have them: "
              + String.join(", ", missing)
              + "; nothing was changed");
    }
    return secrets::get;
  }
}
