package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Adoption;
import fiador.changes.Gap;
import fiador.effects.RandomAccess;
import fiador.files.charter.AdoptionWriter.ServerPart;
import fiador.grants.Access;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Comparator;
import java.util.Set;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;

/** A charter drafted from an estate, written, read again and compared with that estate. */
class AdoptionTest {
  @Property(tries = 300)
  void thereIsNoGapBetweenAnEstateAndTheCharterDraftedFromIt(@ForAll long seed) throws Exception {
    Access access = RandomAccess.of(seed);
    if (access.rules().denials()) {
      return;
    }
    Path folder = Files.createTempDirectory("adopted");
    try {
      ServerPart server = new ServerPart("it", access.rules().server(), "jdbc:hsqldb:mem:x", "SA");
      AdoptionWriter.write(folder, server, Adoption.of(access));
      Charter charter = CharterReader.read(folder, name -> null);
      Gap gap = Gap.between(access, charter.wanted(), true, Set.of(), Clock.systemUTC());
      assertThat(gap.plan().problems()).isEmpty();
      assertThat(gap.plan().steps()).isEmpty();
    } finally {
      try (Stream<Path> files = Files.walk(folder)) {
        files.sorted(Comparator.reverseOrder()).forEach(file -> file.toFile().delete());
      }
    }
  }
}
