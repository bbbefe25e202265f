package fiador.files.identities;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.evidence.Identities.Identity;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

final class IdentityReaderTest {
  @TempDir Path folder;

  private List<Identity> read(String name, String text) throws Exception {
    Path file = folder.resolve(name);
    Files.writeString(file, text);
    return IdentityReader.read(file).people();
  }

  @Test
  void csvWithSeveralAccountsAndSomebodyWhoLeft() throws Exception {
    List<Identity> people =
        read(
            "people.csv",
            """
            key,name,active,manager,unit,accounts
            p1,"Duarte, Ines",yes,p2,Network,ines.duarte ines.admin
            p2,Hugo Brito,no,,,hugo.brito
            """);
    assertThat(people.get(0).name()).isEqualTo("Duarte, Ines");
    assertThat(people.get(0).accounts()).containsExactly("ines.duarte", "ines.admin");
    assertThat(people.get(0).manager()).isEqualTo("p2");
    assertThat(people.get(1).active()).isFalse();
    assertThat(people.get(1).unit()).isNull();
  }

  @Test
  void scimUsersOfAListResponse() throws Exception {
    List<Identity> people =
        read(
            "people.json",
            """
            {"schemas": ["urn:ietf:params:scim:api:messages:2.0:ListResponse"], "totalResults": 2,
             "Resources": [
              {"id": "7", "userName": "ines.duarte", "displayName": "Ines Duarte", "active": true,
               "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User":
                 {"department": "Network", "manager": {"value": "9"}}},
              {"userName": "rui.teles", "active": false, "name": {"formatted": "Rui Teles"}}]}
            """);
    assertThat(people.get(0))
        .isEqualTo(new Identity("7", "Ines Duarte", true, "9", "Network", List.of("ines.duarte")));
    assertThat(people.get(1).name()).isEqualTo("Rui Teles");
    assertThat(people.get(1).active()).isFalse();
  }

  @Test
  void peopleOfALdifFileAndNotItsOtherEntries() throws Exception {
    List<Identity> people =
        read(
            "people.ldif",
            """
            dn: ou=people,dc=aguarela,dc=example
            objectClass: organizationalUnit
            ou: people

            dn: uid=ines.duarte,ou=people,dc=aguarela,dc=example
            objectClass: inetOrgPerson
            uid: ines.duarte
            cn: Ines Duarte
            manager: uid=paulo.matias,ou=people,dc=aguarela,dc=example

            dn: cn=Hugo Brito,ou=people,dc=aguarela,dc=example
            objectClass: user
            sAMAccountName: hugo.brito
            cn: Hugo Brito
            userAccountControl: 514
            """);
    assertThat(people).hasSize(2);
    assertThat(people.get(0).accounts()).containsExactly("ines.duarte");
    assertThat(people.get(0).manager()).startsWith("uid=paulo.matias");
    assertThat(people.get(1).active()).isFalse();
  }

  @Test
  void whatIsWrongIsToldWithItsLine() {
    assertThatThrownBy(() -> read("a.csv", "who,what\n1,2\n"))
        .isInstanceOf(IdentityException.class)
        .hasMessageContaining("a.csv:1: expected SCIM, LDIF, or CSV");
    assertThatThrownBy(() -> read("b.csv", "active,accounts\nmaybe,x\n"))
        .isInstanceOf(IdentityException.class)
        .hasMessageContaining("b.csv:2: active is yes or no, found \"maybe\"");
    assertThatThrownBy(() -> read("c.json", "{\"Resources\": [{\"id\": 1}]}"))
        .isInstanceOf(IdentityException.class)
        .hasMessageContaining("user 1 has no userName");
    assertThatThrownBy(() -> read("d.json", "{\n\"a\": ]"))
        .isInstanceOf(IdentityException.class)
        .hasMessageContaining("d.json:2:");
    assertThatThrownBy(() -> read("e.csv", "accounts\n"))
        .isInstanceOf(IdentityException.class)
        .hasMessageContaining("names nobody");
  }

  @Test
  void aValueThatStandsInAnotherFileIsNotFetched() throws Exception {
    Path secret = Files.writeString(folder.resolve("secret"), "hush");
    Path list = folder.resolve("people.ldif");
    for (String line :
        List.of("cn:< file://" + secret, "cn;x:< file://" + secret, "c\n n:< file://" + secret)) {
      Files.writeString(
          list, "dn: uid=ines,dc=x\nobjectClass: inetOrgPerson\nuid: ines\n" + line + "\n");
      assertThatThrownBy(() -> IdentityReader.read(list))
          .as(line)
          .isInstanceOf(IdentityException.class)
          .hasMessageContaining("is not fetched")
          .hasMessageContaining(":4:");
    }
  }
}
