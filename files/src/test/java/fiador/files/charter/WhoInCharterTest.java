package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import fiador.changes.wanted.Wanted;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Everybody, roles that a server brings along, former names, and the server as a whole. */
class WhoInCharterTest {
  @TempDir Path folder;

  private Charter read(String yaml) throws Exception {
    Files.writeString(folder.resolve(CharterReader.ROOT), "fiador: 1\n" + yaml);
    return CharterReader.read(folder, name -> null);
  }

  private List<String> mistakes(String yaml) {
    CharterException wrong = catchThrowableOfType(CharterException.class, () -> read(yaml));
    return wrong.mistakes().stream().map(Object::toString).toList();
  }

  @Test
  void rolesOfAServersOwnAreKnownWhereThereIsSuchAServer() throws Exception {
    String users = "users: {ines: {roles: [pg_monitor until 2027-01-31, DBA on request]}}\n";
    String servers =
        """
        servers:
          p: {kind: postgresql, url: "jdbc:postgresql://localhost/p", login: a}
          h: {kind: hsqldb, url: "jdbc:hsqldb:mem:h", login: SA}
        """;
    assertThat(read(servers + users).wanted().memberships())
        .extracting(Wanted.Member::role)
        .containsExactly("pg_monitor", "DBA");
    assertThat(mistakes(users)).hasSize(2);
  }

  @Test
  void theWholeServerIsNamedByOneWord() throws Exception {
    Charter charter =
        read("roles: {a: {may: [all on server, \"select on \\\"server\\\", server x.y\"]}}\n");
    assertThat(charter.wanted().grants())
        .extracting(Wanted.Grant::target)
        .containsExactly(
            new Wanted.Single(NodeKind.SERVER, ""),
            new Wanted.Single(null, "\"server\""),
            new Wanted.Single(NodeKind.SERVER, "x.y"));
  }

  @Test
  void powersAreReadOrPointedAt() throws Exception {
    Charter charter =
        read("roles: {a: {powers: [manage roles, bypass row policies]}, b: {powers: []}, c: {}}\n");
    assertThat(charter.wanted().roles())
        .extracting(Wanted.Principal::powers)
        .containsExactly(Set.of(Power.MANAGE_ROLES, Power.BYPASS_ROW_POLICIES), Set.of(), null);
    assertThat(mistakes("users: {a: {powers: [manage role, superuser]}}\n"))
        .hasSize(2)
        .anyMatch(said -> said.contains("did you mean manage roles?"));
  }

  @Test
  void namesThatChangedAreRead() throws Exception {
    Charter charter = read("roles: {a: {was: b}}\nusers: {c: {was: d}}\n");
    assertThat(charter.wanted().roles().get(0).was()).isEqualTo("b");
    assertThat(charter.wanted().users().get(0).was()).isEqualTo("d");
    assertThat(mistakes("roles: {a: {was: b}, b: {}}\n"))
        .containsExactly("fiador.yaml:2:18: a was called b, which is listed here too");
  }

  @Test
  void whatEverybodyMayIsRead() throws Exception {
    Charter charter =
        read(
            """
            governs: {schemas: [s], public: true}
            roles: {reader: {}}
            public:
              roles: [reader]
              may:
                - connect on database d
                - execute on every routine in s, now and later
            """);
    assertThat(charter.wanted().governs().everybody()).isTrue();
    assertThat(charter.wanted().grants())
        .extracting(grant -> grant.grantee() + ": " + grant.text())
        .containsExactly("PUBLIC: connect on database d", "PUBLIC: execute on every routine in s");
    assertThat(charter.wanted().memberships())
        .extracting(member -> member.member() + ": " + member.role())
        .containsExactly("PUBLIC: reader");
    assertThat(mistakes("public: {owns: [x]}\ngoverns: {public: perhaps}\n"))
        .hasSize(2)
        .anyMatch(said -> said.contains("there is no key of public \"owns\""));
  }
}
