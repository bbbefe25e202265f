package fiador.files.identities;

import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.ldap.sdk.Control;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPConnectionOptions;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.LDAPURL;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResult;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.controls.SimplePagedResultsControl;
import com.unboundid.util.ssl.HostNameSSLSocketVerifier;
import com.unboundid.util.ssl.JVMDefaultTrustManager;
import com.unboundid.util.ssl.SSLUtil;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads people from a live directory (LDAP, RFC 4511), page by page, addressed as RFC 4516 says:
 * {@code ldaps://host/base?attributes?scope?filter}. Nothing is ever written there.
 */
public final class DirectoryReader {
  private static final int PAGE = 500;
  private static final int PATIENCE_MILLIS = 10_000;

  private DirectoryReader() {}

  /** Whether that is the address of a directory and not a file. */
  public static boolean isAddress(String source) {
    return source.startsWith("ldap://") || source.startsWith("ldaps://");
  }

  /**
   * Reads the people under the address's base, that its filter fits.
   *
   * @param login the distinguished name to log in with, or null to ask as nobody
   * @param password its secret; sent over TLS only, or within this machine
   * @throws IdentityException when the directory cannot be reached, refuses, or has nobody there
   */
  public static Identities read(String address, String login, String password)
      throws IdentityException {
    LDAPURL url;
    try {
      url = new LDAPURL(address);
    } catch (LDAPException malformed) {
      throw new IdentityException(
          address + " is no address of a directory: " + malformed.getMessage());
    }
    boolean safe = url.getScheme().equals("ldaps");
    if (login != null && !safe && !isHere(url.getHost())) {
      throw new IdentityException(
          "the secret of " + login + " would go over the net in the clear; take ldaps://");
    }
    try (LDAPConnection connection = connect(url, safe)) {
      if (login != null) {
        connection.bind(login, password);
      }
      List<Identity> people = people(connection, url);
      if (people.isEmpty()) {
        throw new IdentityException(
            address + " names nobody: no person is under \"" + url.getBaseDN() + "\"");
      }
      return new Identities(people);
    } catch (LDAPException refused) {
      String why = refused.getResultCode() + ": " + refused.getMessage();
      throw new IdentityException("the directory " + url.getHost() + ": " + why);
    }
  }

  private static boolean isHere(String host) {
    try {
      return InetAddress.getByName(host).isLoopbackAddress();
    } catch (UnknownHostException unknown) {
      return false;
    }
  }

  private static LDAPConnection connect(LDAPURL url, boolean safe)
      throws LDAPException, IdentityException {
    LDAPConnectionOptions options = new LDAPConnectionOptions();
    options.setConnectTimeoutMillis(PATIENCE_MILLIS);
    if (!safe) {
      return new LDAPConnection(options, url.getHost(), url.getPort());
    }
    try {
      // a certificate of another host is as bad as none
      options.setSSLSocketVerifier(new HostNameSSLSocketVerifier(true));
      SSLUtil tls = new SSLUtil(JVMDefaultTrustManager.getInstance());
      return new LDAPConnection(
          tls.createSSLSocketFactory(), options, url.getHost(), url.getPort());
    } catch (GeneralSecurityException broken) {
      throw new IdentityException("TLS cannot be used: " + broken.getMessage());
    }
  }

  private static List<Identity> people(LDAPConnection connection, LDAPURL url)
      throws LDAPException {
    List<Identity> people = new ArrayList<>();
    SearchScope scope = url.scopeProvided() ? url.getScope() : SearchScope.SUB;
    ASN1OctetString next = null;
    do {
      SearchRequest request = new SearchRequest(url.getBaseDN().toString(), scope, url.getFilter());
      request.addControl(new SimplePagedResultsControl(PAGE, next));
      SearchResult page = connection.search(request);
      for (Entry entry : page.getSearchEntries()) {
        Identity person = LdapPerson.of(entry);
        if (person != null) {
          people.add(person);
        }
      }
      next = null;
      for (Control control : page.getResponseControls()) {
        if (control instanceof SimplePagedResultsControl paged && paged.moreResultsToReturn()) {
          next = paged.getCookie();
        }
      }
    } while (next != null);
    return people;
  }
}
