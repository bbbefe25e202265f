package fiador.servers;

import fiador.changes.steps.Step;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.live.SettleRun;
import java.util.List;

/** Carries steps out on a server, with nobody watching. */
public final class Carrying {
  private Carrying() {}

  /** Carries them out. */
  public static void out(Server server, Login login, Step... steps) throws ServerException {
    new SettleRun(server, login, user -> new char[] {'x'}).carryOut(List.of(steps), new Nobody());
  }

  /** Watches and keeps nothing. */
  public static class Nobody implements SettleRun.Witness {
    @Override
    public void begins(List<Step> some) {
      // nothing to keep
    }

    @Override
    public void done(List<Step> some, String sql) {
      // nothing to keep
    }
  }
}
