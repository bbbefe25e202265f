package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight.Rows;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.predicates.Expression;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Comparison;
import fiador.predicates.Expression.UserName;
import fiador.proofs.Proof;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Users who are called otherwise on some servers. */
class AccountsInCharterTest {
  private static final String SERVERS =
      """
      servers:
        dam: {kind: postgresql, url: "jdbc:postgresql://localhost/d", login: a}
        branch: {kind: mariadb, url: "jdbc:mariadb://localhost/b", login: a}
        old: {kind: hsqldb, url: "jdbc:hsqldb:mem:o", login: SA}
      """;

  private static final String REST =
      """
      governs: {schemas: [s], roles: ["*"], users: [ines.duarte, rui.teles]}
      roles:
        reader: {may: [select on s.t]}
        helper: {includes: [user ines.duarte]}
      users:
        ines.duarte:
          accounts: {dam: ines, branch: ["ines@10.%", "ines@localhost"]}
          roles: [reader]
          may: ["select on every table in s, later, made by maker"]
          attributes: {district: north}
        rui.teles: {roles: [reader], accounts: {branch: rui, old: rui}}
        maker: {accounts: {old: maker}}
        telemetry: {kind: service, roles: [reader]}
      proofs:
        - ines.duarte can select s.t
        - only role reader can select s.t
      waivers:
        - {finding: direct-grant, on: user ines.duarte, because: leave, until: 2031-01-01}
      row_policies:
        own: {on: [s.t], rows: "district = user.district", applies_to: {none_of: [user rui.teles]}}
      seals:
        lab: {on: [s.secret], open_to: [user ines.duarte, role reader]}
      """;

  @TempDir Path folder;

  private Charter read(String yaml) throws Exception {
    Files.writeString(folder.resolve(CharterReader.ROOT), "fiador: 1\n" + SERVERS + yaml);
    return CharterReader.read(folder, name -> null);
  }

  private List<String> mistakes(String yaml) {
    CharterException wrong = catchThrowableOfType(CharterException.class, () -> read(yaml));
    return wrong.mistakes().stream().map(Object::toString).toList();
  }

  private static List<String> users(Charter charter) {
    return charter.wanted().users().stream().map(Wanted.Principal::name).toList();
  }

  @Test
  void eachServerHasTheAccountsThatAreNamed() throws Exception {
    Charter charter = read(REST);
    assertThat(users(charter)).containsExactly("ines.duarte", "rui.teles", "maker", "telemetry");
    assertThat(users(charter.on("dam"))).containsExactly("ines", "telemetry");
    assertThat(users(charter.on("branch"))).containsExactly("ines", "rui", "telemetry");
    assertThat(users(charter.on("old"))).containsExactly("rui", "maker", "telemetry");
    assertThat(users(charter.on("somewhere else"))).isEqualTo(users(charter));
    assertThat(charter.on("branch").wanted().users().get(0).login().hosts())
        .containsExactly("10.%", "localhost");
  }

  @Test
  void allThatIsSaidOfThemIsSaidOfTheAccounts() throws Exception {
    Charter dam = read(REST).on("dam");
    Wanted wanted = dam.wanted();
    assertThat(wanted.memberships())
        .extracting(one -> one.member() + " " + one.role())
        .containsExactlyInAnyOrder("helper ines", "ines reader", "telemetry reader");
    assertThat(wanted.governs().users()).containsExactly("ines", "ines.duarte", "rui.teles");
    assertThat(wanted.sight().attributes()).containsOnlyKeys("ines");
    assertThat(wanted.sight().seals())
        .extracting(Seal::openTo)
        .containsExactly(List.of("ines", "reader"));
    assertThat(dam.expected().seals()).isEqualTo(wanted.sight().seals());
    assertThat(dam.expected().kinds()).containsOnlyKeys("ines", "telemetry");
    assertThat(dam.expected().waivers().get(0).on()).isEqualTo("user ines");
    assertThat(dam.proofs().get(0).proof())
        .isInstanceOfSatisfying(
            Proof.Can.class, can -> assertThat(can.who().name()).isEqualTo("ines"));
    // what somebody without an account there would make is not waited for
    assertThat(wanted.grants()).extracting(Wanted.Grant::grantee).containsExactly("reader");
    assertThat(read(REST).on("old").wanted().grants()).hasSize(1);
  }

  @Test
  void policiesNameTheAccountOrNobody() throws Exception {
    Charter charter = read(REST);
    assertThat(exempts(charter)).isEqualTo(named("rui.teles"));
    assertThat(exempts(charter.on("branch"))).isEqualTo(named("rui"));
    assertThat(exempts(charter.on("dam"))).isEqualTo(named(""));
  }

  private static Expression exempts(Charter charter) {
    Rows rows = charter.wanted().sight().rows().get(0);
    return rows.exempts();
  }

  private static Expression named(String user) {
    return new Compare(Comparison.EQUAL, new UserName(), Expression.text(user));
  }

  @Test
  void mistakesArePointedAt() {
    assertThat(
            mistakes(
                """
                roles: {reader: {}}
                users:
                  a: {accounts: {damm: x}}
                  b: {accounts: {dam: reader}}
                  c: {accounts: {dam: x, branch: []}}
                  d: {accounts: {dam: X}}
                  e: {accounts: {branch: [e1@h, e2@h]}}
                  f: {accounts: {dam: g}}
                  g: {}
                  h: {was: i, accounts: {dam: h}}
                """))
        .anyMatch(line -> line.contains("no server \"damm\"") && line.contains("dam"))
        .anyMatch(line -> line.contains("reader on dam is the role reader already"))
        .anyMatch(line -> line.contains("no account is named"))
        .anyMatch(line -> line.contains("X on dam is the user c already"))
        .anyMatch(line -> line.contains("branch has e1 already"))
        .anyMatch(line -> line.contains("g on dam is the user g already"))
        .anyMatch(line -> line.contains("h has \"accounts\""))
        .hasSize(7);
  }
}
