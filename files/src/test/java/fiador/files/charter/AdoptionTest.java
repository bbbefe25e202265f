package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Adoption;
import fiador.changes.Done;
import fiador.changes.Gap;
import fiador.changes.Outcome;
import fiador.changes.Planner;
import fiador.changes.RandomSteps;
import fiador.changes.Step;
import fiador.changes.Wanted;
import fiador.effects.RandomAccess;
import fiador.files.charter.AdoptionWriter.ServerPart;
import fiador.grants.Access;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Comparator;
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
      ServerPart server = new ServerPart("it", access.rules().server(), "jdbc:hsqldb:mem:x", "SA");
      AdoptionWriter.write(folder, server, Adoption.of(access));
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
    if (before.rules().denials()) {
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

  @Property(tries = 300)
  void thereIsNoGapBetweenAnEstateAndTheCharterDraftedFromIt(@ForAll long seed) throws Exception {
    Access access = RandomAccess.of(seed);
    if (access.rules().denials()) {
      return;
    }
    Gap gap = Gap.between(access, charterOf(access), true, Set.of(), Clock.systemUTC());
    assertThat(gap.plan().problems()).isEmpty();
    assertThat(gap.plan().steps()).isEmpty();
  }
}
