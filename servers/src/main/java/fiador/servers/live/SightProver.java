package fiador.servers.live;

import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.policies.RowsDigest;
import fiador.proofs.Proof;
import fiador.refusal.Refusal;
import fiador.servers.jdbc.HiddenCodeException;
import fiador.servers.live.Preview.Count;
import fiador.servers.live.Preview.View;

/**
 * Finds out whether proofs about what somebody gets to see hold: simulated from the table's rows,
 * which the administrator reads, and on the server as that user.
 */
public final class SightProver {
  private final Preview preview;
  private final Lookup lookup;
  private final Secret secret;

  /** The secret of a user where nobody can act as somebody else; null where there is none. */
  @FunctionalInterface
  public interface Secret {
    /** The secret of a user; fails where it did not arrive as it was written. */
    String of(int user) throws Refusal;
  }

  /**
   * A prover.
   *
   * @param secret asked only to try something on the server
   */
  public SightProver(Preview preview, Access access, Secret secret) {
    this.preview = preview;
    this.lookup = new Lookup(access);
    this.secret = secret;
  }

  /**
   * What became of a proof.
   *
   * @param why why it does not hold; empty when it does
   * @param live what the server did, or null when it was not asked
   */
  public record Result(boolean holds, String why, String live) {}

  /**
   * Looks at one proof.
   *
   * @param live whether to try it on the server too
   */
  public Result prove(Proof.OfSight proof, boolean live) throws Refusal {
    try {
      return looked(proof, live);
    } catch (HiddenCodeException harmful) {
      // the other proofs can still be looked at
      return new Result(false, harmful.getMessage(), live ? "not tried" : null);
    }
  }

  private Result looked(Proof.OfSight proof, boolean live) throws Refusal {
    Lookup.Found user = lookup.principal(proof.who().name());
    boolean ofColumn = proof instanceof Proof.SeesColumn;
    Lookup.Found thing = lookup.node(proof.object(), Privilege.SELECT.bit(), ofColumn);
    if (!user.ok() || !thing.ok()) {
      return new Result(false, user.ok() ? thing.problem() : user.problem(), null);
    }
    View view = preview.view(user.id(), thing.id());
    if (!view.isOpen()) {
      boolean none = proof instanceof Proof.SeesRows rows && rows.rows() == 0;
      return new Result(
          none,
          none ? "" : proof.who().name() + " cannot read it at all",
          live ? "not tried" : null);
    } else if (!view.isKnown()) {
      return new Result(false, "which rows come back is not known: see fiador trace", null);
    }
    Result paper =
        proof instanceof Proof.SeesRows rows
            ? rows(rows, preview.count(view, null, -1, 0))
            : column((Proof.SeesColumn) proof, view, thing.column());
    return live ? live(paper, view) : paper;
  }

  private static Result rows(Proof.SeesRows proof, Count count) {
    long wanted = proof.rows() < 0 ? count.rows() : proof.rows();
    boolean holds = count.shown() == wanted;
    return new Result(
        holds, holds ? "" : "it is " + count.shown() + " of " + count.rows() + " rows", null);
  }

  private Result column(Proof.SeesColumn proof, View view, int column) {
    if (column < 0) {
      return new Result(false, proof.object() + " names no column", null);
    } else if (!view.columns().get(column)) {
      return new Result(false, proof.who().name() + " cannot read that column at all", null);
    }
    String name = preview.columns(view).get(column).name();
    boolean masked =
        view.answer() != null
            && view.answer().exempt() == null
            && view.answer().seen().masks().containsKey(name);
    boolean holds = masked == proof.masked();
    return new Result(holds, holds ? "" : "it is " + (masked ? "masked" : "clear"), null);
  }

  private Result live(Result paper, View view) throws Refusal {
    String own = preview.canAct() ? null : secret.of(view.user());
    if (own == null && !preview.canAct()) {
      return new Result(paper.holds(), paper.why(), "not tried");
    }
    Preview.Live tried = preview.live(view, own);
    if (tried.notTried() != null) {
      return new Result(paper.holds(), paper.why(), "not tried: " + tried.notTried());
    }
    RowsDigest is = tried.digest();
    boolean same = is.sameAs(preview.count(view, null, -1, 0).digest());
    String after = tried.switched() == null ? "" : " after " + tried.switched();
    String live = "gave " + is.rows() + (is.rows() == 1 ? " row" : " rows") + after;
    return new Result(
        paper.holds() && same,
        same ? paper.why() : "the server shows something else than worked out",
        live + (same ? ", as worked out" : ""));
  }
}
