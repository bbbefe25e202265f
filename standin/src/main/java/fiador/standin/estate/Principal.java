package fiador.standin.estate;

import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A user, a role, or everybody. */
public final class Principal {
  /** What can be given rights. */
  public enum Sort {
    USER,
    ROLE,
    EVERYBODY
  }

  private final Sort sort;
  private final Set<String> powers = new LinkedHashSet<>();
  private final Map<String, List<String>> attributes = new LinkedHashMap<>();
  private String name;
  private boolean locked;
  private @Nullable String secret;
  private boolean keepsSecret;
  private @Nullable Principal defaultRole;

  Principal(Sort sort, String name) {
    this.sort = sort;
    this.name = name;
  }

  /** Which of the three. */
  public Sort sort() {
    return sort;
  }

  /** What is known of it for veils, by name. */
  public Map<String, List<String>> attributes() {
    return attributes;
  }

  /** Whether it is a user. */
  public boolean isUser() {
    return sort == Sort.USER;
  }

  /** The name. */
  public String name() {
    return name;
  }

  void rename(String to) {
    this.name = to;
  }

  /** Whether nobody can log in as that user. */
  public boolean locked() {
    return locked;
  }

  /** Keeps the user out, or lets it in. */
  public void lock(boolean out) {
    this.locked = out;
  }

  /** What the secret is checked against; null for a user with none, who cannot log in. */
  public @Nullable String secret() {
    return secret;
  }

  /**
   * Sets what the secret is checked against.
   *
   * @param own whether they did it themselves, so that nobody else knows it
   */
  public void secret(String hashed, boolean own) {
    this.secret = hashed;
    this.keepsSecret = own;
  }

  /** Whether nobody else set their secret. */
  public boolean keepsSecret() {
    return keepsSecret;
  }

  /** What this one may do by itself. */
  public Set<String> powers() {
    return powers;
  }

  /** The role that is on after login where one is at a time. */
  public @Nullable Principal defaultRole() {
    return defaultRole;
  }

  /** Makes that role the one after login; null for none. */
  public void defaultRole(@Nullable Principal role) {
    this.defaultRole = role;
  }

  @Override
  public String toString() {
    return name;
  }
}
