package fiador.work.proving;

import fiador.effects.Switch;
import fiador.effects.Switching;
import fiador.files.charter.Charter.ServerEntry;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.proofs.Proof;
import fiador.proofs.Prover;
import fiador.refusal.Refusal;
import fiador.servers.live.Preview;
import fiador.servers.live.SightProver;
import fiador.servers.live.Trial;
import fiador.servers.live.Trial.Answer;
import fiador.work.charters.Surveys;
import fiador.work.secrets.UserSecrets;
import java.time.Clock;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Finds out whether proofs hold: by the survey and, if wanted, by asking the server as the user.
 */
public final class Proving {
  private static final Trial.Outcome ABOUT_NOBODY = new Trial.Outcome(Answer.NOT_TRIED, "");
  private static final Trial.Outcome AHEAD =
      new Trial.Outcome(Answer.NOT_TRIED, "it would have to be done");

  private final Access access;
  private final Clock clock;
  private final Prover prover;
  private final SightProver sights;
  private final @Nullable Trial trial;

  /**
   * Cost: none yet.
   *
   * @param entry where the server is
   * @param access the server as it was surveyed
   * @param live whether the server is asked too; nothing is carried out there
   */
  public Proving(ServerEntry entry, Access access, Clock clock, boolean live) {
    this.access = access;
    this.clock = clock;
    this.prover = new Prover(access, clock);
    UserSecrets secrets = UserSecrets.of(access, Set.of());
    this.sights =
        new SightProver(
            new Preview(Surveys.kind(entry), Surveys.login(entry), access, clock),
            access,
            user -> secrets.of(access.principals().name(user)));
    this.trial = live ? new Trial(Surveys.kind(entry), Surveys.login(entry), access.tree()) : null;
  }

  /** A proof about what somebody may do. */
  public Tried prove(Proof proof) {
    Prover.Result paper = prover.prove(proof);
    if (trial == null) {
      return new Tried(proof, paper, null);
    }
    int user = userOf(proof);
    if (proof.ever() && user >= 0) {
      return new Tried(proof, paper, AHEAD);
    }
    return new Tried(
        proof,
        paper,
        paper.problem() == null && user >= 0 ? ask(trial, proof, paper, user) : ABOUT_NOBODY);
  }

  /**
   * A proof about what somebody gets to see.
   *
   * @throws Refusal when the server cannot be asked
   */
  public SightProver.Result prove(Proof.OfSight proof) throws Refusal {
    return sights.prove(proof, trial != null);
  }

  private Trial.Outcome ask(Trial server, Proof proof, Prover.Result paper, int user) {
    int node = paper.node();
    int column = paper.column();
    Switch first = Switching.first(access, clock, user, proof.privilege(), node, column);
    String name = access.principals().name(user);
    return server.attempt(name, proof.privilege(), node, column, first);
  }

  /** The user a proof is about; -1 where it is about roles. */
  private int userOf(Proof proof) {
    String name = null;
    if (proof instanceof Proof.Can can) {
      name = can.who().name();
    } else if (proof instanceof Proof.Cannot cannot) {
      name = cannot.who().name();
    }
    Lookup.Found found = name == null ? null : new Lookup(access).principal(name);
    if (found == null || !found.ok() || !access.principals().isUser(found.id())) {
      return -1;
    }
    return found.id();
  }
}
