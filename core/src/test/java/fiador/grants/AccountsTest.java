package fiador.grants;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.grants.rules.MariadbRules;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Accounts by name and host: what counts for whose session. */
class AccountsTest {
  private static final long SELECT = Privilege.SELECT.bit();
  private static final long INSERT = Privilege.INSERT.bit();
  private static final int SCHEMA = 1;
  private static final int TABLE = 2;

  private final AccessBuilder builder = new AccessBuilder();

  AccountsTest() {
    builder.estate().node(-1, NodeKind.SERVER, "m", -1);
    builder.estate().fact(0, NodeFact.ADDRESSES_ONLY).fact(0, NodeFact.PUBLIC_USED);
    builder.estate().node(0, NodeKind.SCHEMA, "app_x", -1);
    builder.estate().node(SCHEMA, NodeKind.TABLE, "t", -1);
    builder.estate().columns(List.of("a", "b"));
  }

  private int user(String name) {
    return builder.estate().principal(PrincipalKind.USER, name, 0, -1);
  }

  private int role(String name) {
    return builder.estate().principal(PrincipalKind.ROLE, name, 0, -1);
  }

  private AccountsTest on(String pattern, int grantee, long privileges) {
    builder.pattern(new SchemaPattern(grantee, pattern, privileges, 0));
    return this;
  }

  private AccountsTest onTable(int grantee, long privileges) {
    builder.grant(grantee, TABLE, Terms.of(privileges, 0), ColumnSets.WHOLE, -1);
    return this;
  }

  private State state(int user, Privilege privilege) {
    Access access =
        builder.build(new Origin("m", "mariadb", "10.11", Instant.EPOCH), MariadbRules.of(10, 11));
    return new Holdings(access, Clock.systemUTC(), false)
        .at(user, TABLE).stream()
            .filter(row -> row.privilege() == privilege)
            .map(Holding::state)
            .findFirst()
            .orElse(null);
  }

  @Test
  void aWiderAccountsRowCountsUntilTheOwnHidesIt() {
    int narrow = user("u@127.0.0.1");
    int wide = user("u@%");
    onTable(wide, SELECT);
    assertThat(state(narrow, Privilege.SELECT)).isEqualTo(State.LIVE);
    onTable(narrow, INSERT);
    assertThat(state(narrow, Privilege.SELECT)).isNull();
    assertThat(state(narrow, Privilege.INSERT)).isEqualTo(State.LIVE);
    assertThat(state(wide, Privilege.INSERT)).isNull();
  }

  @Test
  void globalRightsAreTheAccountsOwn() {
    int narrow = user("u@127.0.0.1");
    int wide = user("u@%");
    int covers = NodeKind.allObjects() | NodeKind.SCHEMA.bit();
    builder.grant(wide, 0, new Terms(SELECT, 0, covers, Terms.FOREVER), ColumnSets.WHOLE, -1);
    assertThat(state(wide, Privilege.SELECT)).isEqualTo(State.LIVE);
    assertThat(state(narrow, Privilege.SELECT)).isNull();
  }

  @Test
  void ofSeveralPatternsTheClosestCounts() {
    int user = user("u@%");
    on("app%", user, SELECT).on("app\\_x", user, INSERT).on("other", user, SELECT);
    assertThat(state(user, Privilege.INSERT)).isEqualTo(State.LIVE);
    assertThat(state(user, Privilege.SELECT)).isNull();
  }

  @Test
  void aRolesNestedRoleCanHideTheRolesOwnRow() {
    int user = user("u@%");
    int outer = role("outer");
    int inner = role("inner");
    builder.member(outer, inner, Membership.of(false, true, false), -1);
    builder.member(user, outer, Membership.of(false, true, true), -1);
    on("app%", outer, SELECT).on("app\\_x", inner, INSERT);
    assertThat(state(user, Privilege.SELECT)).isNull();
    assertThat(state(user, Privilege.INSERT)).isEqualTo(State.LIVE);
  }

  @Test
  void whatIsNotTheDefaultRoleIsOnRequest() {
    int user = user("u@%");
    int first = role("first");
    int second = role("second");
    builder.member(user, first, Membership.of(false, true, true), -1);
    builder.member(user, second, Membership.of(false, false, true), -1);
    onTable(first, SELECT).onTable(second, INSERT);
    assertThat(state(user, Privilege.SELECT)).isEqualTo(State.LIVE);
    assertThat(state(user, Privilege.INSERT)).isEqualTo(State.ON_REQUEST);
  }

  @Test
  void theNamelessAccountsSchemaRowsAreEverybodysItsTableRowsNobodys() {
    int user = user("u@127.0.0.1");
    int nameless = user("@%");
    on("app\\_x", nameless, SELECT).onTable(nameless, INSERT);
    assertThat(state(user, Privilege.SELECT)).isEqualTo(State.LIVE);
    assertThat(state(user, Privilege.INSERT)).isNull();
  }

  @Test
  void aRoleOfPublicIsOnForEverybody() {
    int user = user("u@%");
    int role = role("r");
    builder.member(Principals.PUBLIC, role, Membership.of(false, true, false), -1);
    onTable(role, SELECT);
    assertThat(state(user, Privilege.SELECT)).isEqualTo(State.LIVE);
  }

  @Test
  void hostsMatchByNameAddressNetworkAndPattern() {
    assertThat(new HostPattern("10.1.%").matches(Set.of("10.1.2.3"))).isTrue();
    assertThat(new HostPattern("10.0.0.0/255.0.0.0").matches(Set.of("10.9.9.9"))).isTrue();
    assertThat(new HostPattern("10.0.0.0/255.0.0.0").matches(Set.of("11.0.0.1"))).isFalse();
    assertThat(new HostPattern("LOCALHOST").matches(Set.of("localhost"))).isTrue();
    assertThat(new HostPattern("10.1.%").matches(new HostPattern("10.%").client(false))).isFalse();
    assertThat(new HostPattern("localhost").client(true)).contains("127.0.0.1");
  }

  @Test
  void anotherAccountOfTheNameStandsInForOneThatIsGone() {
    AccountName gone = AccountName.of("u@10.%");
    assertThat(Accounts.standIn(gone, Set.of(AccountName.of("u@%"), AccountName.of("v@%"))))
        .isEqualTo(AccountName.of("u@%"));
    assertThat(Accounts.standIn(gone, Set.of(AccountName.of("u@127.%")))).isNull();
  }
}
