package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import fiador.changes.wanted.Wanted;
import fiador.estate.AccountLimit;
import fiador.estate.Privilege;
import fiador.files.yaml.Mistakes.Mistake;
import fiador.grants.Membership;
import fiador.proofs.Proof;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CharterReaderTest {
  @TempDir Path folder;

  private Charter read(String yaml) throws Exception {
    Files.writeString(folder.resolve("fiador.yaml"), "fiador: 1\n" + yaml);
    return CharterReader.read(folder, name -> name.equals("SECRET") ? "hush" : null);
  }

  private List<String> mistakes(String yaml) {
    CharterException wrong = catchThrowableOfType(CharterException.class, () -> read(yaml));
    return wrong.mistakes().stream().map(Mistake::toString).toList();
  }

  private String mistake(String sentence) {
    List<String> found = mistakes("roles:\n  r:\n    may:\n      - " + sentence + "\n");
    assertThat(found).hasSize(1);
    return found.get(0);
  }

  @Test
  void aPatternMakesOneRoleForEachValue() throws Exception {
    Charter charter =
        read(
            """
            role_patterns:
              - each: {schema: [metering, billing]}
                role: "{schema}_read"
                purpose: access
                may:
                  - select on every table and view in {schema}, now and later
            """);
    assertThat(charter.wanted().roles())
        .extracting(Wanted.Principal::name)
        .containsExactly("metering_read", "billing_read");
    assertThat(charter.wanted().grants())
        .extracting(grant -> grant.target().text())
        .containsExactly("every table and view in metering", "every table and view in billing");
    assertThat(charter.wanted().grants()).allMatch(Wanted.Grant::later);
  }

  @Test
  void allColumnsButSomeAreUnderstood() throws Exception {
    Charter charter =
        read("roles:\n  r:\n    may: [\"select except (iban, tax) on b.accounts\"]\n");
    Wanted.Action action = charter.wanted().grants().get(0).actions().get(0);
    assertThat(action.except()).isTrue();
    assertThat(action.columns()).containsExactly("iban", "tax");
  }

  @Test
  void membershipsSayHowTheyAreHeld() throws Exception {
    Charter charter =
        read(
            """
            roles:
              keeper: {}
              auditor: {includes: [keeper with admin option]}
            users:
              ines: {roles: [auditor on request, keeper on request with admin option]}
            """);
    assertThat(charter.wanted().memberships())
        .extracting(Wanted.Member::how)
        .containsExactly(
            Membership.of(true, true, true),
            Membership.of(false, false, true),
            Membership.of(true, false, true));
  }

  @Test
  void aCharterInAFolderOfACharterIsOneOfItsOwn() throws Exception {
    Path folder = Files.createTempDirectory("charter");
    Path inside = Files.createDirectories(folder.resolve("a/other"));
    for (Path each : List.of(folder, inside)) {
      Files.writeString(each.resolve("fiador.yaml"), "fiador: 1\nestate: e\n");
      Files.writeString(each.resolve("roles.yaml"), "roles: {reader: }\n");
    }
    Files.writeString(folder.resolve("a/more.yaml"), "roles: {writer: }\n");
    assertThat(CharterReader.read(folder, name -> null).wanted().roles())
        .extracting(Wanted.Principal::name)
        .containsExactlyInAnyOrder("reader", "writer");
  }

  @Test
  void ownersLimitsAndWhatIsGovernedAreRead() throws Exception {
    Charter charter =
        read(
            """
            governs: {schemas: [s], roles: ["*"], users: [i*]}
            roles:
              keeper: {purpose: owner, owns: [schema s and everything in it, table t.x]}
            users:
              ines: {until: 2027-03-31, disabled: true, hosts: ["10.%"]}
            """);
    assertThat(charter.wanted().governs())
        .isEqualTo(new Wanted.Governs(List.of("s"), List.of("*"), List.of("i*")));
    assertThat(charter.wanted().owned())
        .extracting(Wanted.Owned::inside)
        .containsExactly(true, false);
    assertThat(charter.wanted().users().get(0).login())
        .isEqualTo(
            new Wanted.LoginTerms(true, Instant.parse("2027-04-01T00:00:00Z"), List.of("10.%")));
  }

  @Test
  void whatAnAccountIsKeptToIsReadOrPointedAt() throws Exception {
    Charter charter =
        read(
            """
            users:
              ines: {limits: {connections: 5, statement_milliseconds: "2500", encrypted: true}}
              rui: {limits: {encrypted: false}}
              olga: {}
            """);
    assertThat(charter.wanted().users())
        .extracting(user -> user.login().limits())
        .containsExactly(
            Map.of(
                AccountLimit.CONNECTIONS, 5,
                AccountLimit.STATEMENT_MILLISECONDS, 2_500,
                AccountLimit.ENCRYPTED, AccountLimit.BY_TLS),
            Map.of(),
            null);
    assertThat(mistakes("users: {ines: {limits: {connection: 5, queries_per_hour: 0}}}"))
        .hasSize(2)
        .anyMatch(each -> each.contains("\"connection\"; did you mean connections?"))
        .anyMatch(each -> each.contains("found \"0\", expected a whole number above 0"));
  }

  @Test
  void proofsAreUnderstoodOrPointedAt() throws Exception {
    Charter charter =
        read(
            """
            proofs:
              - ines can select b.x
              - ines cannot create view b.x
              - only role a and user c can select b.x.iban
              - nobody but role a can delete b.x
              - ines sees 4 rows of b.x
              - user ines sees no rows of b.x
              - ines sees all rows of b.x
              - ines sees b.x.iban masked
              - ines sees b.x.iban clear
            """);
    assertThat(charter.proofs())
        .extracting(Charter.Sentence::proof)
        .containsExactly(
            new Proof.Can(new Proof.Who("ines"), Privilege.SELECT, "b.x"),
            new Proof.Cannot(new Proof.Who("ines"), Privilege.CREATE_VIEW, "b.x"),
            new Proof.Only(
                List.of(new Proof.Who("a"), new Proof.Who("c")), Privilege.SELECT, "b.x.iban"),
            new Proof.Nobody(List.of(new Proof.Who("a")), Privilege.DELETE, "b.x"),
            new Proof.SeesRows(new Proof.Who("ines"), 4, "b.x"),
            new Proof.SeesRows(new Proof.Who("ines"), 0, "b.x"),
            new Proof.SeesRows(new Proof.Who("ines"), -1, "b.x"),
            new Proof.SeesColumn(new Proof.Who("ines"), true, "b.x.iban"),
            new Proof.SeesColumn(new Proof.Who("ines"), false, "b.x.iban"));
    assertThat(
            read("""
                    proofs:
                      - ines can never select b.x
                      - only role a can ever select b.x
                      - nobody can ever create view b.x except role a
                      - nobody but role a can ever delete b.x
                    """)
                .proofs())
        .extracting(Charter.Sentence::proof)
        .containsExactly(
            new Proof.Cannot(new Proof.Who("ines"), Privilege.SELECT, "b.x", true),
            new Proof.Only(List.of(new Proof.Who("a")), Privilege.SELECT, "b.x", true),
            new Proof.Nobody(List.of(new Proof.Who("a")), Privilege.CREATE_VIEW, "b.x", true),
            new Proof.Nobody(List.of(new Proof.Who("a")), Privilege.DELETE, "b.x", true));
    for (String wrong : List.of("ines can ever", "only a can never", "nobody can never")) {
      assertThat(mistakes("proofs: [" + wrong + " select b.x]").get(0))
          .contains("expected \"... can never ...\"");
    }
    assertThat(mistakes("proofs: [ines sees some rows of b.x]").get(0))
        .contains("expected a proof");
    assertThat(mistakes("proofs: [ines may select b.x]").get(0)).contains("expected a proof");
  }

  @Test
  void severalTargetsColumnsAndTheGrantOptionAreUnderstood() throws Exception {
    Charter charter =
        read(
            """
            roles:
              r:
                may:
                  - select (a, b), delete on billing.x, table billing.y with grant option
            """);
    assertThat(charter.wanted().grants()).hasSize(2);
    Wanted.Grant first = charter.wanted().grants().get(0);
    assertThat(first.grantOption()).isTrue();
    assertThat(first.later()).isFalse();
    assertThat(first.actions())
        .containsExactly(
            new Wanted.Action(Privilege.SELECT, List.of("a", "b")),
            new Wanted.Action(Privilege.DELETE, List.of()));
  }

  @Test
  void theEnvironmentFillsInSecretsAndDefaults() throws Exception {
    Charter charter =
        read(
            """
            servers:
              main:
                kind: postgresql
                url: jdbc:postgresql://${HOST:-localhost}/db
                login: me
                password: ${SECRET}
            """);
    Charter.ServerEntry server = charter.servers().get("main");
    assertThat(server.url()).isEqualTo("jdbc:postgresql://localhost/db");
    assertThat(server.password()).isEqualTo("hush");
    assertThat(server.toString()).doesNotContain("hush");
  }

  @Test
  void aSecretThatIsWrittenDownIsRefusedWhereverItStands() {
    List<String> found =
        mistakes(
            """
            servers:
              a: {kind: postgresql, url: "jdbc:postgresql://h/d?password=s3cret", login: me}
              b: {kind: mariadb, url: "jdbc:mariadb://me:s3cret@h/", login: me}
              c: {kind: mariadb, url: "jdbc:mariadb://h/", login: me, password: s3cret}
              d: {kind: mariadb, url: "jdbc:mariadb://h/", login: me, password: "${X:-s3cret}"}
              e: {kind: mariadb, url: "jdbc:mariadb://h/", login: me, tls: sometimes}
              f: {kind: mariadb, url: "jdbc:mariadb://h/", login: me, lock_seconds: soon}
            """);
    assertThat(found).hasSize(6).noneMatch(mistake -> mistake.contains("s3cret"));
    assertThat(found.get(0)).contains("the address has a secret in it");
    assertThat(found.get(1)).contains("the address has a secret in it");
    assertThat(found.get(2)).contains("a charter holds no secret");
    assertThat(found.get(3)).contains("a charter holds no secret");
    assertThat(found.get(4)).contains("sometimes").contains("verify-full");
    assertThat(found.get(5)).contains("a number of seconds");
  }

  @Test
  void howAConnectionIsProtectedIsSaidInTheCharter() throws Exception {
    Charter.ServerEntry server =
        read("""
                servers:
                  main:
                    kind: postgresql
                    url: jdbc:postgresql://db.example/d
                    login: me
                    tls: verify-full
                    tls_authority: ca.pem
                    keeper: dba
                    statement_seconds: 90
                """)
            .servers()
            .get("main");
    assertThat(server.line().tls()).isEqualTo("verify-full");
    assertThat(server.line().authority()).endsWith("ca.pem");
    assertThat(server.line().statementSeconds()).isEqualTo(90);
    assertThat(server.line().connectSeconds()).isZero();
    assertThat(server.keeper()).isEqualTo("dba");
  }

  @Test
  void tenDifferentMistakesAreAllReportedWithTheirPlaces() {
    List<String> found =
        mistakes(
            """
            servrs: {}
            servers:
              main: {kind: postgres, url: "jdbc:postgresql://h/${NOWHERE}", login: me}
            roles:
              reader:
                purpos: access
                includes: [writr]
                may:
                  - selct on billing.x
                  - select in billing.x
                  - select on every tabel in billing
                  - select on x, later
              writer: {includes: [writer]}
            users:
              ines: {kind: human, roles: [reader, reader]}
              writer: {roles: []}
            """);
    assertThat(found)
        .containsExactly(
            "fiador.yaml:2:1: there is no section \"servrs\"; did you mean servers or seals or users?",
            "fiador.yaml:4:16: there is no kind of server \"postgres\"; did you mean postgresql?",
            "fiador.yaml:4:52: the environment has no NOWHERE; set it, or write ${NOWHERE:-otherwise}",
            "fiador.yaml:7:5: there is no key of a role \"purpos\"; did you mean purpose?",
            "fiador.yaml:8:16: there is no role \"writr\" in the charter; did you mean writer?",
            "fiador.yaml:10:9: there is no privilege \"selct\"; did you mean select?",
            "fiador.yaml:11:16: found \"in\" where on was expected",
            "fiador.yaml:12:25: there is no kind of thing \"tabel\"; did you mean table?",
            "fiador.yaml:13:22: \"later\" goes with \"every ... in SCHEMA\": a single object is there"
                + " or it is not",
            "fiador.yaml:14:23: roles include each other: writer > writer",
            "fiador.yaml:16:16: there is no kind of user \"human\"; expected one of person, service",
            "fiador.yaml:16:39: role reader stands in the list twice",
            "fiador.yaml:17:3: writer is a user here and a role at fiador.yaml:14:3");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "select on every table                | \"in\" and the name of a schema are missing",
        "select                               | the sentence ends where",
        "select on every table labelled a in b| there is no label a",
        "select on x with grant               | expected",
        "select on x now now                  | found \"now\"",
      })
  void aBadSentencePointsAtTheWord(String sentence, String message) {
    assertThat(mistake("'" + sentence + "'")).contains(message);
  }

  @Test
  void theSameThingSaidTwiceNamesBothPlaces() throws IOException {
    Files.writeString(folder.resolve("more.yaml"), "roles:\n  reader: {}\n");
    assertThat(mistakes("roles:\n  reader: {}\n"))
        .containsExactly(
            "more.yaml:2:3: role reader stands here a second time, after fiador.yaml:3:3");
  }

  @Test
  void aliasesAreRefusedSoThatNoFileBlowsUp() {
    assertThat(mistakes("roles: &a\n  r: {}\nusers: *a\n").toString())
        .contains("anchors and aliases");
  }

  @Test
  void veryDeepNestingIsRefused() {
    assertThat(mistakes("roles: " + "[".repeat(500) + "]".repeat(500) + "\n").toString())
        .contains("nested deeper");
  }

  @Test
  void whatIsNotYamlSaysWhere() {
    assertThat(mistakes("roles: [a\nusers: {").toString()).contains("this is not YAML");
  }

  @Test
  void whatIsNotUtf8IsRefused() throws IOException {
    Files.write(folder.resolve("bad.yaml"), "estate: \u00e9".getBytes(StandardCharsets.ISO_8859_1));
    assertThat(mistakes("roles: {}\n")).containsExactly("bad.yaml:1:1: the file is not UTF-8");
  }

  @Test
  void aFolderWithoutACharterSaysHowToMakeOne() {
    CharterException wrong =
        catchThrowableOfType(
            CharterException.class, () -> CharterReader.read(folder, name -> null));
    assertThat(wrong).hasMessageContaining("fiador new");
  }

  @Test
  void theDemoCharterIsRight() throws Exception {
    Charter charter = CharterReader.read(Path.of("../examples/aguarela"), name -> null);
    assertThat(charter.wanted().roles()).hasSize(19);
    assertThat(charter.wanted().users()).hasSize(18);
  }
}
