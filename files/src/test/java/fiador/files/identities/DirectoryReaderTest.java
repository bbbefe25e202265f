package fiador.files.identities;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.unboundid.ldap.listener.InMemoryDirectoryServer;
import com.unboundid.ldap.listener.InMemoryDirectoryServerConfig;
import com.unboundid.ldap.listener.InMemoryListenerConfig;
import fiador.evidence.Identities.Identity;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A directory in memory, asked over the net of this machine. */
class DirectoryReaderTest {
  private static final String ADMIN = "cn=reader,dc=aguarela,dc=example";

  private InMemoryDirectoryServer directory;

  @BeforeEach
  void start() throws Exception {
    var config = new InMemoryDirectoryServerConfig("dc=aguarela,dc=example");
    config.addAdditionalBindCredentials(ADMIN, "secret");
    config.setListenerConfigs(InMemoryListenerConfig.createLDAPConfig("plain", 0));
    config.setSchema(null);
    directory = new InMemoryDirectoryServer(config);
    directory.startListening();
    directory.add("dn: dc=aguarela,dc=example", "objectClass: domain", "dc: aguarela");
    for (String unit : List.of("people", "things")) {
      directory.add(
          "dn: ou=" + unit + ",dc=aguarela,dc=example",
          "objectClass: organizationalUnit",
          "ou: " + unit);
    }
    person(
        "ines", "Ines Duarte", "Network", "manager: UID=Paulo, OU=people,dc=aguarela,dc=example");
    person("paulo", "Paulo Matias", "Billing", "uid: paulo.admin");
    person("hugo", "Hugo Brito", "Network", "employeeStatus: left");
    directory.add(
        "dn: cn=printer,ou=things,dc=aguarela,dc=example", "objectClass: device", "cn: printer");
  }

  private void person(String uid, String name, String unit, String more) throws Exception {
    directory.add(
        "dn: uid=" + uid + ",ou=people,dc=aguarela,dc=example",
        "objectClass: inetOrgPerson",
        "uid: " + uid,
        "cn: " + name,
        "sn: x",
        "departmentNumber: " + unit,
        more);
  }

  @AfterEach
  void stop() {
    directory.shutDown(true);
  }

  private String address(String rest) {
    return "ldap://127.0.0.1:" + directory.getListenPort() + "/" + rest;
  }

  private List<Identity> read(String rest) throws Exception {
    return DirectoryReader.read(address(rest), ADMIN, "secret").people();
  }

  @Test
  void peopleComeWithUnitsManagersAndAccounts() throws Exception {
    List<Identity> people = read("dc=aguarela,dc=example");
    assertThat(people).hasSize(3);
    Identity ines = people.get(1);
    Identity paulo = people.get(2);
    assertThat(ines.name()).isEqualTo("Ines Duarte");
    assertThat(ines.unit()).isEqualTo("Network");
    assertThat(ines.manager()).isEqualTo(paulo.key());
    assertThat(paulo.accounts()).containsExactly("paulo", "paulo.admin");
    assertThat(people.get(0).active()).isFalse();
  }

  @Test
  void manyPeopleComePageByPage() throws Exception {
    for (int i = 0; i < 1203; i++) {
      person("p" + i, "P " + i, "Network", "employeeStatus: active");
    }
    assertThat(read("ou=people,dc=aguarela,dc=example")).hasSize(1206);
  }

  @Test
  void theAddressMaySayWhichOnes() throws Exception {
    assertThat(read("dc=aguarela,dc=example??sub?(departmentNumber=Billing)")).hasSize(1);
    assertThatThrownBy(() -> read("ou=things,dc=aguarela,dc=example"))
        .hasMessageContaining("names nobody");
  }

  @Test
  void whatDoesNotWorkIsSaid() {
    String base = address("dc=aguarela,dc=example");
    assertThatThrownBy(() -> DirectoryReader.read(base, ADMIN, "wrong"))
        .isInstanceOf(IdentityException.class)
        .hasMessageContaining("invalid credentials")
        .message()
        .doesNotContain("wrong");
    assertThatThrownBy(() -> DirectoryReader.read("ldap://127.0.0.1:1/dc=x", null, null))
        .isInstanceOf(IdentityException.class)
        .hasMessageContaining("127.0.0.1");
    assertThatThrownBy(() -> DirectoryReader.read("ldap://no such host/x", null, null))
        .isInstanceOf(IdentityException.class);
    assertThatThrownBy(() -> DirectoryReader.read("ldap://192.0.2.1/dc=x", ADMIN, "secret"))
        .hasMessageContaining("in the clear; take ldaps://");
  }
}
