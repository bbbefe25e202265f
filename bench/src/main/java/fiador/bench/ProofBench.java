package fiador.bench;

import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.proofs.Proof;
import fiador.proofs.Prover;
import java.time.Clock;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/** Times proofs, plain ones and those that look ahead, on a generated estate. */
public final class ProofBench {
  private static final int PROOFS = 21;

  private ProofBench() {}

  private interface Sentence {
    Proof of(Proof.Who who, String table);
  }

  /** Takes a size. */
  public static void main(String[] args) {
    EstateGenerator.Size size = EstateGenerator.Size.valueOf(args.length == 0 ? "M" : args[0]);
    Access access = new EstateGenerator(size, 1).generate();
    Prover prover = new Prover(access, Clock.systemUTC());
    for (int round = 0; round < 2; round++) {
      for (boolean ever : new boolean[] {false, true}) {
        time("only", ever, prover, access, (who, on) -> only(who, on, ever));
        time("cannot", ever, prover, access, (who, on) -> cannot(who, on, ever));
      }
    }
  }

  private static Proof only(Proof.Who who, String table, boolean ever) {
    return new Proof.Only(List.of(who), Privilege.SELECT, table, ever);
  }

  private static Proof cannot(Proof.Who who, String table, boolean ever) {
    return new Proof.Cannot(who, Privilege.SELECT, table, ever);
  }

  private static void time(
      String name, boolean ever, Prover prover, Access access, Sentence sentence) {
    long[] times = new long[PROOFS];
    int against = 0;
    int tables = access.tree().size();
    for (int i = 0; i < PROOFS; i++) {
      int table = tables - 1 - i * (tables / 2 / PROOFS);
      String path =
          access.tree().name(access.tree().parent(table)) + "." + access.tree().name(table);
      int who =
          access.grants().byNode().from(table) < access.grants().byNode().to(table)
              ? access
                  .grants()
                  .grantee(access.grants().byNode().row(access.grants().byNode().from(table)))
              : 1;
      long start = System.nanoTime();
      Prover.Result result =
          prover.prove(sentence.of(new Proof.Who(access.principals().name(who)), path));
      times[i] = System.nanoTime() - start;
      against += result.against().size();
    }
    Arrays.sort(times);
    System.out.printf(
        Locale.ROOT,
        "%s%s: median %.0f ms, longest %.0f ms of %d; %d against%n",
        name,
        ever ? " ever" : "",
        times[PROOFS / 2] / 1e6,
        times[PROOFS - 1] / 1e6,
        PROOFS,
        against);
  }
}
