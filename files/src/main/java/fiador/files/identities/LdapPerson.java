package fiador.files.identities;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import fiador.evidence.Identities.Identity;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;

/** A person as directories keep one (RFC 2798, and what directories add for disabled accounts). */
final class LdapPerson {
  private static final List<String> CLASSES =
      List.of("person", "inetOrgPerson", "account", "user", "applicationProcess");
  private static final int DISABLED = 2;

  private LdapPerson() {}

  /** The person, or null when the entry is something else. */
  static Identity of(Entry entry) {
    boolean person = CLASSES.stream().anyMatch(entry::hasObjectClass);
    List<String> accounts = new ArrayList<>();
    for (String attribute : List.of("uid", "sAMAccountName", "userid")) {
      String[] values = entry.getAttributeValues(attribute);
      accounts.addAll(values == null ? List.of() : Arrays.asList(values));
    }
    if (!person) {
      return null;
    }
    String name = first(entry, "displayName", "cn");
    return new Identity(
        key(entry.getDN()),
        name == null ? entry.getDN() : name,
        isActive(entry),
        key(entry.getAttributeValue("manager")),
        first(entry, "departmentNumber", "ou"),
        accounts);
  }

  /** One spelling of a distinguished name, so that a manager is found however they are written. */
  private static String key(String name) {
    try {
      return name == null ? null : DN.normalize(name);
    } catch (LDAPException malformed) {
      return name;
    }
  }

  private static String first(Entry entry, String... attributes) {
    for (String attribute : attributes) {
      if (entry.getAttributeValue(attribute) != null) {
        return entry.getAttributeValue(attribute);
      }
    }
    return null;
  }

  private static boolean isActive(Entry entry) {
    Integer control = entry.getAttributeValueAsInteger("userAccountControl");
    String locked = entry.getAttributeValue("nsAccountLock");
    String status = first(entry, "employeeStatus", "accountStatus");
    boolean off = status != null && Set.of("inactive", "left", "disabled").contains(status);
    return !off
        && !"true".equalsIgnoreCase(locked)
        && (control == null || (control & DISABLED) == 0)
        && entry.getAttributeValue("pwdAccountLockedTime") == null;
  }
}
