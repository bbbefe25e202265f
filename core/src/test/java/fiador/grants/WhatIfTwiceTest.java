package fiador.grants;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holdings;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.PrincipalKind;
import fiador.estate.Privilege;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;

/** Edits of what is edited already amount to the same as all of them at once. */
final class WhatIfTwiceTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);
  private static final int USERS = 4;
  private static final int ROLES = 4;

  private static TinyEstate estate() {
    TinyEstate tiny =
        TinyEstate.postgresql()
            .users("u0", "u1", "u2", "u3")
            .roles("r0", "r1", "r2", "r3")
            .node(NodeKind.SCHEMA, "d.s")
            .grant("PUBLIC", "usage", "d.s");
    for (int table = 0; table < 3; table++) {
      tiny.node(NodeKind.TABLE, "d.s.t" + table, "a", "b");
      tiny.grant("r" + table, "select", "d.s.t" + table);
      tiny.grant("r" + table, "insert", "d.s.t" + table, "a");
    }
    return tiny.member("u0", "r0").member("u1", "r1").member("r1", "r2").member("u2", "r3");
  }

  private static List<Consumer<WhatIf>> edits(TinyEstate tiny, Access access, Random random) {
    List<Consumer<WhatIf>> edits = new ArrayList<>();
    int all = 1 + USERS + ROLES;
    edits.add(edit -> edit.principal(PrincipalKind.ROLE, "fresh"));
    for (int i = 0; i < 6; i++) {
      int who = random.nextInt(all + 1);
      int table = tiny.at("d.s.t" + random.nextInt(3));
      long bit = List.of(Privilege.SELECT, Privilege.DELETE).get(random.nextInt(2)).bit();
      int row = random.nextInt(access.grants().size());
      int edge = random.nextInt(access.memberships().size());
      int member = 1 + random.nextInt(USERS);
      int role = 1 + USERS + random.nextInt(ROLES + 1);
      edits.add(
          switch (random.nextInt(4)) {
            case 0 -> edit -> edit.revoke(row);
            case 1 -> edit -> edit.leave(edge);
            case 2 -> edit -> edit.join(member, role, Membership.PLAIN, None.PRINCIPAL);
            default ->
                edit -> edit.grant(who, table, Terms.of(bit, 0), ColumnSets.WHOLE, None.PRINCIPAL);
          });
    }
    return edits;
  }

  @Test
  void theSameAsAllAtOnce() {
    for (int seed = 0; seed < 300; seed++) {
      TinyEstate tiny = estate();
      Access access = tiny.build();
      List<Consumer<WhatIf>> edits = edits(tiny, access, new Random(seed));
      WhatIf once = new WhatIf(access);
      edits.forEach(edit -> edit.accept(once));
      Access step = access;
      for (Consumer<WhatIf> edit : edits) {
        WhatIf one = new WhatIf(step);
        edit.accept(one);
        step = one.access();
      }
      for (int user = 1; user <= USERS; user++) {
        assertThat(new Holdings(step, CLOCK, true).of(user))
            .as("seed %d, user %d", seed, user)
            .containsExactlyInAnyOrderElementsOf(new Holdings(once.access(), CLOCK, true).of(user));
      }
    }
  }
}
