package fiador.bench;

import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.PrincipalKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * How long it takes to see what a thousand changed grants do to people. {@code GapBench SIZE}: half
 * of the steps grant on random tables to random roles, half revoke random grants.
 */
public final class GapBench {
  private static final int CHANGES = 1000;
  private static final int ROUNDS = 3;

  private GapBench() {}

  /** Runs it. */
  public static void main(String[] args) {
    Access access = new EstateGenerator(EstateGenerator.Size.valueOf(args[0]), 1).generate();
    List<Step> steps = steps(access, new Random(11));
    for (int round = 0; round < ROUNDS; round++) {
      long start = System.nanoTime();
      Outcome.Result outcome = Outcome.of(access, steps);
      long worked = System.nanoTime();
      int changes = PeopleEffects.of(access, outcome, Clock.systemUTC()).size();
      long seen = System.nanoTime();
      System.out.printf(
          "%d steps: overlay %.2f s, %d changes of holdings found in %.2f s%n",
          steps.size(), (worked - start) / 1e9, changes, (seen - worked) / 1e9);
    }
  }

  private static List<Step> steps(Access access, Random random) {
    Tree tree = access.tree();
    List<Step> steps = new ArrayList<>();
    while (steps.size() < CHANGES) {
      int node = random.nextInt(tree.size());
      int role = 1 + random.nextInt(access.principals().size() - 1);
      boolean fits =
          tree.kind(node) == NodeKind.TABLE && access.principals().kind(role) == PrincipalKind.ROLE;
      if (steps.size() % 2 == 0 && fits) {
        steps.add(
            new Grant(
                Privilege.SELECT.bit(),
                on(tree, node),
                List.of(),
                access.principals().name(role),
                false));
      } else if (steps.size() % 2 == 1) {
        int row = random.nextInt(access.grants().size());
        int on = access.grants().node(row);
        if (tree.kind(on) == NodeKind.TABLE) {
          steps.add(
              new Revoke(
                  access.grants().terms(row).privileges(),
                  on(tree, on),
                  List.of(),
                  access.principals().name(access.grants().grantee(row)),
                  false,
                  null));
        }
      }
    }
    return steps;
  }

  private static On on(Tree tree, int node) {
    int schema = tree.parent(node);
    return new On(
        tree.kind(node),
        tree.name(tree.parent(schema)),
        List.of(tree.name(schema), tree.name(node)));
  }
}
