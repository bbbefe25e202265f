package fiador.cli.sweep;

import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.work.sweeping.Order;
import fiador.work.sweeping.Outcome;
import fiador.work.sweeping.Sweeps;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** Answers what a test has put there; the engine itself is tested where it is. */
public final class MadeUpSweeps implements Sweeps {
  static Order order;
  static Outcome outcome;
  static Question question;
  static List<Map<String, Object>> rows = List.of();
  static Servers servers = new Servers(2, 0, Instant.parse("2026-11-29T08:00:00Z"));

  @Override
  public Outcome sweep(Order given, Consumer<String> progress) {
    order = given;
    progress.accept("3 of 4 surveys are to be worked out");
    return outcome;
  }

  @Override
  public <T> T ask(String sweep, int cores, Question asked, Reading<T> reading)
      throws Refusal, IOException {
    if (!sweep.equals("swept")) {
      throw new BadInput(sweep + " is no sweep");
    }
    question = asked;
    return reading.read(rows.iterator(), servers);
  }
}
