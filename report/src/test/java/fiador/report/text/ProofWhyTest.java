package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.proofs.Proof;
import fiador.proofs.Proof.Who;
import fiador.proofs.Prover;
import fiador.report.shown.Shown;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Why proofs fail, and how people could come to it. */
final class ProofWhyTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);
  private static final Membership MAY_GIVE = Membership.of(true, false, false);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui", "olga", "sa")
          .roles("steward", "owner")
          .power("sa", Power.SUPERUSER)
          .owned(NodeKind.SCHEMA, "d.s", "owner")
          .owned(NodeKind.TABLE, "d.s.t", "owner", "a")
          .withheld("d.s.t", Privilege.SELECT)
          .grant("PUBLIC", "usage", "d.s")
          .grant("steward", "select", "d.s.t");

  private record Said(String why, List<Map<String, Object>> ladders) {}

  private Said said(Proof proof) {
    Access access = tiny.build();
    Prover.Result result = new Prover(access, CLOCK).prove(proof);
    Shown shown = Shown.brief(access);
    return new Said(ProofWhy.text(proof, result, shown), ProofWhy.ladders(result, shown));
  }

  private static Proof nobody(boolean ever) {
    return new Proof.Nobody(List.of(), Privilege.SELECT, "s.t", ever);
  }

  @Test
  void whoCanAndWhoCouldAreToldApart() {
    tiny.member("ines", "steward").member("rui", "steward", MAY_GIVE).member("olga", "owner");
    Said now = said(nobody(false));
    assertThat(now.why()).isEqualTo("ines can; fiador trace shows through what");
    assertThat(now.ladders()).isEmpty();
    Said ever = said(nobody(true));
    assertThat(ever.why())
        .isEqualTo(
            "ines can; fiador trace shows through what; rui, olga could, by their own means");
    assertThat(ever.ladders())
        .extracting(ladder -> ladder.get("user") + " " + ladder.get("rungs"))
        .containsExactly(
            "rui [{as=rui, does=gives itself steward, which it may give}]",
            "olga [{as=owner, does=grants select on table s.t to olga, as its owner}]");
  }

  @Test
  void superusersAreNamedWhereItHolds() {
    assertThat(said(nobody(true)).why()).isEqualTo("but for superusers: sa");
    Proof can = new Proof.Can(new Who("ines"), Privilege.SELECT, "s.t");
    assertThat(said(can).why()).isEqualTo("ines cannot; fiador trace shows what is missing");
    Proof only = new Proof.Only(List.of(new Who("owner")), Privilege.SELECT, "s.t");
    assertThat(said(only).why()).isEqualTo("owner cannot");
    Proof nothing = new Proof.Cannot(new Who("ines"), Privilege.SELECT, "s.none", true);
    assertThat(said(nothing).why()).contains("no s.none");
  }
}
