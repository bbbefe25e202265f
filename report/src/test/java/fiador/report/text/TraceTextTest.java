package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Tracer;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.report.shown.Tone;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;

class TraceTextTest {
  private static final Clock CLOCK = Clock.fixed(Instant.ofEpochSecond(600), ZoneOffset.UTC);

  private static String text(TinyEstate tiny, String user, Privilege privilege, String path) {
    Access access = tiny.build();
    Tracer tracer = new Tracer(access, CLOCK);
    return Tone.plain(
        new TraceText(access, 90, CLOCK.instant())
            .text(tracer.trace(tiny.principal(user), privilege, tiny.at(path), -1, 5)));
  }

  private static TinyEstate estate() {
    return TinyEstate.postgresql()
        .users("ines")
        .roles("analyst", "reader")
        .node(NodeKind.SCHEMA, "d.s")
        .node(NodeKind.TABLE, "d.s.t", "a", "b");
  }

  @Test
  void aYesShowsPathAndGates() {
    TinyEstate tiny =
        estate()
            .grant("reader", "usage", "d.s")
            .grant("reader", "select*", "d.s.t")
            .member("analyst", "reader")
            .member("ines", "analyst");
    assertThat(text(tiny, "ines", Privilege.SELECT, "d.s.t"))
        .isEqualTo(
            """
            yes, live: ines may SELECT s.t                                 (survey of box, 10 min old)

              1  ines
                 `- analyst
                    `- reader
                       `- SELECT on table s.t, may grant it

              gate    connect on database d: through PUBLIC
              gate    usage on schema s: through reader
              grant   may also be granted on to others
            """);
  }

  @Test
  void aBlockedOneNamesTheGateAndWhatWouldOpenIt() {
    TinyEstate tiny = estate().grant("ines", "select", "d.s.t");
    assertThat(text(tiny, "ines", Privilege.SELECT, "d.s.t"))
        .startsWith("no, blocked: ines may not SELECT s.t")
        .contains("gate    usage on schema s: missing")
        .contains("why     ines has no usage on schema s, so nothing in it can be used")
        .contains("grant   usage on schema s to ines");
  }

  @Test
  void onRequestSaysWhatToSwitchTo() {
    TinyEstate tiny =
        estate()
            .grant("reader", "usage", "d.s")
            .grant("reader", "select", "d.s.t")
            .member("ines", "reader", Membership.of(false, false, true));
    assertThat(text(tiny, "ines", Privilege.SELECT, "d.s.t"))
        .startsWith("yes, on request: ines may SELECT s.t")
        .contains("after switching to it")
        .contains("SET ROLE reader first");
  }

  @Test
  void aNameCannotRewriteTheTerminal() {
    TinyEstate tiny = estate().users("evil\u001b[2J\nyes, live").grant("PUBLIC", "usage", "d.s");
    assertThat(text(tiny, "evil\u001b[2J\nyes, live", Privilege.SELECT, "d.s.t"))
        .startsWith("no: evil\\u001b[2J\\u000ayes, live may not SELECT s.t")
        .doesNotContain("\u001b");
  }

  @Test
  void aServerThatFoldsToUpperCaseIsShownAsPeopleTypeIt() {
    TinyEstate tiny =
        new TinyEstate(HsqldbRules.rules())
            .users("INES", "Odd")
            .node(NodeKind.SCHEMA, "BILLING")
            .node(NodeKind.TABLE, "BILLING.CUSTOMERS", "IBAN")
            .grant("INES", "select", "BILLING.CUSTOMERS");
    assertThat(text(tiny, "INES", Privilege.SELECT, "BILLING.CUSTOMERS"))
        .startsWith("yes, live: ines may SELECT billing.customers");
    assertThat(text(tiny, "Odd", Privilege.SELECT, "BILLING.CUSTOMERS"))
        .startsWith("no: Odd may not");
  }
}
