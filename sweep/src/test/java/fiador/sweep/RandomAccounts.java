package fiador.sweep;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.MariadbRules;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Random small estates where one name is several accounts, and schemas are granted by pattern. */
final class RandomAccounts {
  private static final String[] HOSTS = {"%", "10.%", "10.0.0.1", "localhost"};
  private static final String[] PATTERNS = {"s%", "s_", "s1", "%"};
  private static final String[] PRIVILEGES = {"select", "insert", "update", "delete", "create"};

  private final Random random;
  private final TinyEstate tiny = new TinyEstate(MariadbRules.of(10, 11));
  private final List<String> principals = new ArrayList<>(List.of("r0", "r1", "r2"));
  private final List<String> tables = new ArrayList<>();

  private RandomAccounts(long seed) {
    this.random = new Random(seed);
  }

  static Access of(long seed) {
    return new RandomAccounts(seed).build();
  }

  private String any(String... words) {
    return words[random.nextInt(words.length)];
  }

  private String any(List<String> list) {
    return list.get(random.nextInt(list.size()));
  }

  private Access build() {
    tiny.roles("r0", "r1", "r2");
    for (int user = 0; user < 3; user++) {
      for (String host : HOSTS) {
        if (host.equals("%") || random.nextBoolean()) {
          tiny.users("u" + user + "@" + host);
          principals.add("u" + user + "@" + host);
        }
      }
    }
    for (int schema = 0; schema < 3; schema++) {
      tiny.node(NodeKind.SCHEMA, "s" + schema);
      for (int table = 0; table < 2; table++) {
        tables.add("s" + schema + ".t" + table);
        tiny.node(NodeKind.TABLE, "s" + schema + ".t" + table, "a", "b");
      }
      tables.add("s" + schema + ".v");
      tiny.owned(NodeKind.VIEW, "s" + schema + ".v", any(principals), "a");
      tiny.reads("s" + schema + ".v", any(tables.subList(0, 2)), "a");
    }
    for (int i = 0; i < 8; i++) {
      String member = any(principals);
      String role = "r" + random.nextInt(3);
      boolean circle = member.startsWith("r") && member.compareTo(role) <= 0;
      if (!circle) {
        boolean on = member.startsWith("r") || random.nextBoolean();
        tiny.member(member, role, Membership.of(random.nextInt(4) == 0, on, true));
      }
    }
    for (int i = 0; i < 18; i++) {
      rights();
    }
    if (random.nextInt(3) == 0) {
      tiny.power(any(principals), Power.SUPERUSER);
    }
    return tiny.build();
  }

  private void rights() {
    String who = any(principals);
    String what = any(PRIVILEGES) + (random.nextInt(5) == 0 ? "*" : "");
    switch (random.nextInt(4)) {
      case 0 -> tiny.pattern(who, any(PATTERNS), what.replace("*", ""));
      case 1 -> tiny.grant(who, any("select", "insert", "update"), any(tables), "a");
      default -> tiny.grant(who, what, any(tables));
    }
  }
}
