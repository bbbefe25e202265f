package fiador.report;

import fiador.estate.NodeKind;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import java.util.List;
import java.util.Random;

/** Small estates of any shape: roles in roles, owners, columns, gates, PUBLIC. */
public final class RandomEstates {
  public static final int USERS = 5;
  public static final int ROLES = 6;
  public static final List<String> TABLES = List.of("d.s.a", "d.s.b", "d.t.c", "d.t.e");

  private RandomEstates() {}

  /** One of them; the same seed gives the same. */
  public static TinyEstate of(long seed) {
    Random random = new Random(seed);
    TinyEstate tiny = TinyEstate.postgresql();
    for (int i = 0; i < USERS; i++) {
      tiny.users("p" + i);
    }
    for (int i = 0; i < ROLES; i++) {
      tiny.roles("p" + (USERS + i));
    }
    tiny.node(NodeKind.SCHEMA, "d.s").node(NodeKind.SCHEMA, "d.t");
    for (String table : TABLES) {
      tiny.owned(NodeKind.TABLE, table, random.nextInt(3) == 0 ? anybody(random) : null, "x", "y");
    }
    for (int i = 0; i < 9; i++) {
      int member = random.nextInt(USERS + ROLES - 1);
      int from = Math.max(member + 1, USERS);
      boolean inherit = random.nextInt(4) > 0;
      tiny.member(
          "p" + member,
          "p" + (from + random.nextInt(USERS + ROLES - from)),
          Membership.of(false, inherit, !inherit || random.nextBoolean()));
    }
    for (int i = 0; i < 5; i++) {
      tiny.grant(
          random.nextInt(3) == 0 ? "PUBLIC" : anybody(random),
          "usage",
          random.nextBoolean() ? "d.s" : "d.t");
    }
    for (int i = 0; i < 9; i++) {
      String who = random.nextInt(9) == 0 ? "PUBLIC" : anybody(random);
      String[] columns = random.nextInt(3) == 0 ? new String[] {"x"} : new String[0];
      tiny.grant(
          who, random.nextBoolean() ? "select" : "update", TABLES.get(random.nextInt(4)), columns);
    }
    return tiny;
  }

  private static String anybody(Random random) {
    return "p" + random.nextInt(USERS + ROLES);
  }
}
