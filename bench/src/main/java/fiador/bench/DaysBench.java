package fiador.bench;

import fiador.files.ledger.Ledger;
import fiador.grants.Access;
import fiador.grants.Terms;
import fiador.grants.WhatIf;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Random;

/**
 * Makes a ledger of a server that was surveyed each day, with some grants more from day to day, to
 * ask {@code fiador history USER --ledger FILE} of it.
 */
public final class DaysBench {
  private static final int GRANTS_A_DAY = 10;

  private DaysBench() {}

  /** The arguments are the size (M or L), how many days, and the ledger's file. */
  public static void main(String[] args) throws Exception {
    Locale.setDefault(Locale.ROOT);
    Access access = new EstateGenerator(EstateGenerator.Size.valueOf(args[0]), 1).generate();
    Random random = new Random(1);
    try (Ledger ledger = Ledger.open(Path.of(args[2]))) {
      for (int day = 0; day < Integer.parseInt(args[1]); day++) {
        long start = System.nanoTime();
        ledger.record(HistoryBench.at(access, 24 * day));
        System.out.printf("day %d: %.1f s%n", day, (System.nanoTime() - start) / 1e9);
        WhatIf change = new WhatIf(access);
        for (int i = 0; i < GRANTS_A_DAY; i++) {
          int who = 1 + random.nextInt(access.principals().size() - 1);
          int node = access.tree().size() / 2 + random.nextInt(access.tree().size() / 3);
          change.grant(who, node, Terms.of(1, 0), -1, -1);
        }
        access = change.access();
      }
    }
  }
}
