package fiador.files.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.RandomAccess;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A ledger's file that several open before it is there. */
class NewLedgerTest {
  private static final int AT_ONCE = 6;
  private static final int TIMES = 12;

  @TempDir Path folder;

  @Test
  void whoComesAtTheSameMomentFindsOneLedger() throws Exception {
    ExecutorService all = Executors.newFixedThreadPool(AT_ONCE);
    try {
      for (int time = 0; time < TIMES; time++) {
        Path file = folder.resolve("kept" + time + "/ledger.db");
        CyclicBarrier begin = new CyclicBarrier(AT_ONCE);
        List<Future<Void>> done = new ArrayList<>();
        for (int who = 0; who < AT_ONCE; who++) {
          int seconds = who;
          Callable<Void> record =
              () -> {
                begin.await();
                try (Ledger ledger = Ledger.open(file)) {
                  ledger.record(
                      LedgerTest.at(RandomAccess.of(seconds), Duration.ofSeconds(seconds)));
                }
                return null;
              };
          done.add(all.submit(record));
        }
        for (Future<Void> each : done) {
          each.get();
        }
        try (Ledger ledger = Ledger.open(file)) {
          assertThat(ledger.surveys("box")).hasSize(AT_ONCE);
        }
      }
    } finally {
      all.shutdownNow();
    }
  }
}
