package fiador.effects;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.TinyEstate;
import fiador.grants.rules.Activation;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.PostgresqlRules;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Random small estates, cycles of roles included, under several house rules. */
public final class RandomAccess {
  private RandomAccess() {}

  static final int USERS = 4;
  static final int ROLES = 5;

  /** Rules of a made-up server that has all that the open-source ones lack. */
  static HouseRules denying() {
    return denying(Ownership.OBJECT);
  }

  private static HouseRules denying(Ownership ownership) {
    HouseRulesBuilder rules = new HouseRulesBuilder("stand-in");
    PostgresqlRules.of(18).privileges().forEach((kind, exist) -> rules.on(kind, exist));
    return rules
        .onColumns(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE, Privilege.REFERENCES)
        .owners(ownership)
        .gate(Gate.ofSealed(NodeKind.SCHEMA, Privilege.USAGE))
        .names(HsqldbRules.rules().names())
        .with(
            HouseFact.DENIALS,
            HouseFact.SUPERUSER_INHERITED,
            HouseFact.ENFORCES_TIME,
            HouseFact.LATER_GRANTS,
            HouseFact.CHECKS_UNDER_VIEWS,
            HouseFact.COLUMNS_APART,
            HouseFact.LOCKS_ACCOUNTS,
            HouseFact.LOCAL_PRINCIPALS)
        .build();
  }

  public static Access of(long seed) {
    Random random = new Random(seed);
    HouseRules rules =
        switch (random.nextInt(4)) {
          case 0 -> denying(seed % 2 == 0 ? Ownership.OBJECT : Ownership.SCHEMA);
          case 1 -> HsqldbRules.rules();
          default -> PostgresqlRules.of(18);
        };
    boolean hsqldb = rules.kind().equals("hsqldb");
    TinyEstate tiny = new TinyEstate(rules);
    List<String> principals = new ArrayList<>();
    for (int i = 0; i < USERS; i++) {
      tiny.users("u" + i);
      principals.add("u" + i);
    }
    for (int i = 0; i < ROLES; i++) {
      tiny.roles("r" + i);
      principals.add("r" + i);
    }
    List<String> nodes = new ArrayList<>();
    tiny.node(NodeKind.DATABASE, "d");
    for (int s = 0; s < 2; s++) {
      String schema = "d.s" + s;
      tiny.owned(NodeKind.SCHEMA, schema, owner(random, principals));
      for (int t = 0; t < 3; t++) {
        String table = schema + ".t" + t;
        tiny.owned(
            t == 2 ? NodeKind.VIEW : NodeKind.TABLE,
            table,
            hsqldb ? null : owner(random, principals),
            "a",
            "b",
            "c");
        nodes.add(table);
        if (t == 2) {
          tiny.reads(table, schema + ".t" + random.nextInt(2), random.nextBoolean() ? "a" : "b");
          if (random.nextInt(3) == 0) {
            tiny.fact(table, NodeFact.INVOKER);
          }
        } else if (random.nextInt(4) == 0 && !hsqldb) {
          tiny.withheld(table, Privilege.SELECT);
        }
      }
    }
    for (int i = 0; i < 9; i++) {
      String member = any(random, principals);
      String role = "r" + random.nextInt(ROLES);
      // only the made-up server lets roles hold each other in a circle
      boolean circle = member.startsWith("r") && member.compareTo(role) <= 0;
      if (!member.equals(role) && (rules.has(HouseFact.DENIALS) || !circle)) {
        boolean allOn = rules.activation() == Activation.ALL_ON;
        long until = random.nextInt(6) == 0 ? -1 : Terms.FOREVER;
        tiny.member(
            member,
            role,
            new Membership(
                false,
                allOn || random.nextInt(3) > 0,
                !allOn && random.nextInt(3) > 0,
                until,
                false));
      }
    }
    for (int i = 0; i < 14; i++) {
      String grantee = random.nextInt(12) == 0 ? "PUBLIC" : any(random, principals);
      String privilege =
          (random.nextBoolean() ? "select" : "insert") + (random.nextInt(4) == 0 ? "*" : "");
      String node = any(random, nodes);
      if (random.nextInt(3) == 0) {
        tiny.grant(grantee, privilege, node, random.nextBoolean() ? "a" : "b", "c");
      } else {
        tiny.grant(grantee, privilege, node);
      }
      if (rules.has(HouseFact.DENIALS) && random.nextInt(4) == 0) {
        tiny.deny(any(random, principals), "select", any(random, nodes));
        tiny.deny(any(random, principals), "select", any(random, nodes), "a");
      }
    }
    long covered = Privilege.SELECT.bit();
    if (rules.has(HouseFact.DENIALS)) {
      tiny.grant(
          any(random, principals),
          "d.s0",
          new Terms(covered, covered, NodeKind.TABLE.bit() | NodeKind.VIEW.bit(), Terms.FOREVER));
    }
    for (int i = 0; i < 5 && !hsqldb; i++) {
      tiny.grant(any(random, principals), "usage", "d.s" + random.nextInt(2));
      tiny.grant(random.nextInt(3) == 0 ? "PUBLIC" : any(random, principals), "connect", "d");
    }
    if (rules.has(HouseFact.DENIALS) && seed % 3 == 0) {
      tiny.fact("d.s" + (seed & 1), NodeFact.SEALED);
    }
    if (random.nextInt(4) == 0) {
      tiny.power(any(random, principals), Power.SUPERUSER);
    }
    if (random.nextInt(4) == 0) {
      tiny.power(any(random, principals), Power.READ_EVERYTHING);
    }
    return tiny.build();
  }

  private static String owner(Random random, List<String> principals) {
    return random.nextBoolean() ? null : any(random, principals);
  }

  private static String any(Random random, List<String> list) {
    return list.get(random.nextInt(list.size()));
  }
}
