package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.RandomSteps;
import fiador.changes.adopting.Adoption;
import fiador.changes.outcome.Done;
import fiador.changes.outcome.Outcome;
import fiador.changes.planning.Planner;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.RandomAccess;
import fiador.effects.State;
import fiador.files.charter.AdoptionWriter.ServerPart;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;

/** A charter drafted from an estate, written, read again and compared with that estate. */
class AdoptionTest {
  private static Wanted charterOf(Access access) throws Exception {
    Path folder = Files.createTempDirectory("adopted");
    try {
      ServerPart server = new ServerPart("it", access.rules().kind(), "jdbc:hsqldb:mem:x", "SA");
      AdoptionWriter.write(folder, server, Adoption.of(access, false));
      return CharterReader.read(folder, name -> null).wanted();
    } finally {
      try (Stream<Path> files = Files.walk(folder)) {
        files.sorted(Comparator.reverseOrder()).forEach(file -> file.toFile().delete());
      }
    }
  }

  @Property(tries = 300)
  void settlingTowardsAnotherEstateLeavesNoGapToIt(@ForAll long seed) throws Exception {
    Access before = RandomAccess.of(seed);
    if (before.rules().has(HouseFact.DENIALS)) {
      return;
    }
    Access there = Outcome.of(before, RandomSteps.of(before, new Random(seed), 8)).after();
    Wanted wanted = charterOf(there);
    List<Step> steps = new Planner(before).plan(wanted).steps();
    Access after = Outcome.of(before, steps).after();
    assertThat(new Planner(after).plan(wanted).steps()).as("after " + steps).isEmpty();
    assertThat(new Done(after).missing(steps)).isEmpty();
    assertThat(new Done(after).undo(steps)).hasSameSizeAs(steps);
  }

  /** What works for whom, cell by cell; of a whole object each column and the object itself. */
  private static Set<List<Object>> working(Access access) {
    Holdings holdings = new Holdings(access, Clock.systemUTC(), false);
    Set<List<Object>> cells = new HashSet<>();
    for (int user = 1; user < access.principals().size(); user++) {
      for (Holding row :
          access.principals().isUser(user) ? holdings.of(user) : List.<Holding>of()) {
        if (row.state() != State.LIVE && row.state() != State.ON_REQUEST) {
          continue;
        }
        if (row.columns() == null) {
          cells.add(List.of(user, row.privilege(), row.node()));
        }
        for (int column = 0; column < access.tree().columns(row.node()); column++) {
          if (row.columns() == null || row.columns().get(column)) {
            cells.add(List.of(user, row.privilege(), row.node(), column));
          }
        }
      }
    }
    return cells;
  }

  @Property(tries = 600)
  void onTheWayNobodyHoldsMoreThanBeforeOrAfter(@ForAll long seed) throws Exception {
    Access before = RandomAccess.of(seed);
    if (!before.rules().kind().equals("hsqldb")) {
      return;
    }
    Access there = Outcome.of(before, RandomSteps.of(before, new Random(seed), 8)).after();
    Gap gap = Gap.between(before, charterOf(there), false, Set.of(), Clock.systemUTC());
    List<Step> steps = gap.plan().steps();
    Set<List<Object>> first = working(before);
    Set<List<Object>> last = working(gap.outcome().after());
    Set<List<Object>> either = new HashSet<>(first);
    either.addAll(last);
    Set<List<Object>> both = new HashSet<>(first);
    both.retainAll(last);
    boolean givesFirst = steps.equals(new Planner(before).plan(charterOf(there)).steps());
    for (int prefix = 1; prefix <= steps.size(); prefix++) {
      Set<List<Object>> now = working(Outcome.of(before, steps.subList(0, prefix)).after());
      assertThat(either).as("prefix " + prefix + " of " + steps).containsAll(now);
      if (givesFirst) {
        assertThat(now).as("prefix " + prefix + " of " + steps).containsAll(both);
      }
    }
    assertThat(working(Outcome.of(before, steps).after())).isEqualTo(last);
  }

  @Property(tries = 300)
  void thereIsNoGapBetweenAnEstateAndTheCharterDraftedFromIt(@ForAll long seed) throws Exception {
    Access access = RandomAccess.of(seed);
    if (access.rules().has(HouseFact.DENIALS)) {
      return;
    }
    Gap gap = Gap.between(access, charterOf(access), true, Set.of(), Clock.systemUTC());
    assertThat(gap.plan().problems()).isEmpty();
    assertThat(gap.plan().steps()).isEmpty();
  }
}
