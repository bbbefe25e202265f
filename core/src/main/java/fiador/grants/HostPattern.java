package fiador.grants;

import java.util.Locale;
import java.util.Set;

/**
 * The host part of an account: which clients it lets in, and how it ranks among others that do.
 *
 * <p>A client is known by its host name and its address. What else counts for a session depends on
 * where it really comes from; here a session of an account stands for those clients that the
 * account itself describes: a pattern's wildcards are filled with something no narrower pattern
 * matches.
 */
final class HostPattern implements Comparable<HostPattern> {
  private static final String LOCAL_NAME = "localhost";
  private static final String LOCAL_ADDRESS = "127.0.0.1";
  private static final char FILLING = '\u0001';

  private final String text;
  private final Wildcard wildcard;
  private final boolean masked;
  private final long net;
  private final long mask;

  HostPattern(String host) {
    this.text = host;
    this.wildcard = new Wildcard(host.toLowerCase(Locale.ROOT));
    int slash = host.indexOf('/');
    this.net = slash < 0 ? -1 : address(host.substring(0, slash));
    this.mask = slash < 0 ? -1 : address(host.substring(slash + 1));
    this.masked = net >= 0 && mask >= 0;
  }

  /** An address of version 4 as a number, or -1. */
  private static long address(String dotted) {
    String[] parts = dotted.split("\\.", -1);
    long number = 0;
    for (String part : parts) {
      if (!part.matches("\\d{1,3}") || Integer.parseInt(part) > 255) {
        return -1;
      }
      number = number << 8 | Integer.parseInt(part);
    }
    return parts.length == 4 ? number : -1;
  }

  /**
   * A client this account was made for: its names and addresses.
   *
   * @param resolving whether the server finds out host names, so that a local client is known by
   *     both its name and its address
   */
  Set<String> client(boolean resolving) {
    if (masked) {
      return Set.of(text.substring(0, text.indexOf('/')));
    }
    if (resolving && (text.equalsIgnoreCase(LOCAL_NAME) || text.equals(LOCAL_ADDRESS))) {
      return Set.of(LOCAL_NAME, LOCAL_ADDRESS);
    }
    return Set.of(text.toLowerCase(Locale.ROOT).replace('%', FILLING).replace('_', FILLING));
  }

  /** Whether a client of those names and addresses is let in. */
  boolean matches(Set<String> client) {
    for (String known : client) {
      boolean inNet = masked && address(known) >= 0 && (address(known) & mask) == net;
      if (inNet || !masked && wildcard.matches(known)) {
        return true;
      }
    }
    return false;
  }

  /** The one that pins down more comes first: one host or one network, then patterns. */
  @Override
  public int compareTo(HostPattern other) {
    boolean single = isSingle();
    if (single || other.isSingle()) {
      return Boolean.compare(other.isSingle(), single);
    }
    return wildcard.compareTo(other.wildcard);
  }

  private boolean isSingle() {
    return masked || wildcard.isLiteral();
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof HostPattern host && host.text.equals(text);
  }

  @Override
  public int hashCode() {
    return text.hashCode();
  }
}
