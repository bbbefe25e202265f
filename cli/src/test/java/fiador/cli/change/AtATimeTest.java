package fiador.cli.change;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.cli.shell.Exit;
import fiador.cli.shell.Spoken;
import fiador.refusal.BadInput;
import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** Several servers at the same time. */
class AtATimeTest {
  private static final int LONG = 30;

  private final ByteArrayOutputStream out = new ByteArrayOutputStream();
  private final ByteArrayOutputStream err = new ByteArrayOutputStream();

  private EveryServer every(int atATime) {
    return new EveryServer(
        new Spoken(
            new PrintStream(out, true, StandardCharsets.UTF_8),
            new PrintStream(err, true, StandardCharsets.UTF_8),
            null,
            false,
            false,
            80),
        false,
        atATime);
  }

  private static Map<String, String> apart(String... servers) {
    Map<String, String> addresses = new LinkedHashMap<>();
    for (String server : servers) {
      addresses.put(server, server + ".box:5432");
    }
    return addresses;
  }

  private String said() {
    return out.toString(StandardCharsets.UTF_8);
  }

  @Test
  void theyRunTogetherAndSpeakOneAfterTheOther() {
    CyclicBarrier together = new CyclicBarrier(3);
    CountDownLatch last = new CountDownLatch(1);
    int code =
        every(3)
            .each(
                apart("a", "b", "c"),
                (server, kept) -> {
                  try {
                    together.await(LONG, TimeUnit.SECONDS);
                    if (server.equals("a")) {
                      last.await(LONG, TimeUnit.SECONDS);
                    }
                  } catch (Exception late) {
                    throw new BadInput("alone");
                  }
                  kept.out().println("did " + server);
                  if (server.equals("c")) {
                    last.countDown();
                    return Exit.NO;
                  }
                  return Exit.YES;
                });
    assertThat(code).isEqualTo(Exit.NO);
    assertThat(said())
        .containsSubsequence("did a", "did b", "did c", "as the charter says: 2 of 3 servers");
    assertThat(err.toString(StandardCharsets.UTF_8)).isEqualTo("3 servers, 3 at the same time\n");
  }

  @Test
  void noMoreThanThatManyAreBegun() {
    CyclicBarrier pairs = new CyclicBarrier(2);
    AtomicInteger now = new AtomicInteger();
    AtomicInteger most = new AtomicInteger();
    every(2)
        .each(
            apart("a", "b", "c", "d"),
            (server, kept) -> {
              most.accumulateAndGet(now.incrementAndGet(), Math::max);
              try {
                pairs.await(LONG, TimeUnit.SECONDS);
              } catch (Exception late) {
                throw new BadInput("alone");
              }
              now.decrementAndGet();
              return Exit.YES;
            });
    assertThat(most.get()).isEqualTo(2);
  }

  @Test
  void thoseAtOneAddressWaitForEachOther() {
    Map<String, String> addresses = apart("a", "b", "c");
    addresses.put("c", "a.box:5432");
    CountDownLatch seen = new CountDownLatch(1);
    CountDownLatch begun = new CountDownLatch(1);
    int code =
        every(3)
            .each(
                addresses,
                (server, kept) -> {
                  try {
                    switch (server) {
                      case "a" -> assertThat(seen.await(LONG, TimeUnit.SECONDS)).isTrue();
                      case "b" -> {
                        assertThat(begun.await(300, TimeUnit.MILLISECONDS)).isFalse();
                        seen.countDown();
                      }
                      default -> begun.countDown();
                    }
                  } catch (InterruptedException stopped) {
                    throw new BadInput("stopped");
                  }
                  return Exit.YES;
                });
    assertThat(code).isEqualTo(Exit.YES);
    assertThat(err.toString(StandardCharsets.UTF_8)).contains("3 servers, 2 at the same time");
  }

  @Test
  void aFaultOfOursIsToldWhenAllHaveEnded() {
    assertThatThrownBy(
            () ->
                every(1)
                    .each(
                        apart("a", "b"),
                        (server, kept) -> {
                          if (server.equals("a")) {
                            throw new IllegalArgumentException("fault");
                          }
                          kept.out().println("did b");
                          return Exit.YES;
                        }))
        .hasMessage("settling a")
        .hasRootCauseMessage("fault");
    assertThat(said()).contains("did b");
  }
}
