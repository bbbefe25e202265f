package fiador.estate;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntList;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Users, roles and PUBLIC, by principal id. PUBLIC is always id 0. */
public final class Principals {
  /** The id of PUBLIC, who is everybody. */
  public static final int PUBLIC = 0;

  private final Names names;
  private final int[] name;
  private final byte[] kind;
  private final int[] powers;
  private final int[] scope;
  private final Map<Integer, Account> accounts;
  private final IntList powerful;

  Principals(
      Names names,
      int[] name,
      byte[] kind,
      int[] powers,
      int[] scope,
      Map<Integer, Account> accounts) {
    this.names = names;
    this.name = name;
    this.kind = kind;
    this.powers = powers;
    this.scope = scope;
    this.accounts = Map.copyOf(accounts);
    this.powerful = new IntArrayList();
    for (int id = 0; id < powers.length; id++) {
      if (powers[id] != 0) {
        powerful.add(id);
      }
    }
  }

  /** One that is added to an estate that is there already. */
  public record Added(PrincipalKind kind, String name) {}

  /**
   * The same with some more, whose ids follow on.
   *
   * @param gone those who are no longer users
   * @param changed what is known of accounts instead
   */
  public Principals with(List<Added> added, IntSet gone, Map<Integer, Account> changed) {
    int size = name.length;
    int[] allNames = Arrays.copyOf(name, size + added.size());
    byte[] kinds = Arrays.copyOf(kind, size + added.size());
    int[] allPowers = Arrays.copyOf(powers, size + added.size());
    int[] scopes = Arrays.copyOf(scope, size + added.size());
    for (int i = 0; i < added.size(); i++) {
      allNames[size + i] = names.intern(added.get(i).name());
      kinds[size + i] = (byte) added.get(i).kind().ordinal();
      scopes[size + i] = -1;
    }
    gone.forEach(
        (int id) -> {
          kinds[id] = (byte) PrincipalKind.ROLE.ordinal();
          allPowers[id] = 0;
          allNames[id] = names.intern("(gone) " + name(id));
        });
    Map<Integer, Account> known = new HashMap<>(accounts);
    known.putAll(changed);
    return new Principals(names, allNames, kinds, allPowers, scopes, known);
  }

  /** How many there are, PUBLIC included. */
  public int size() {
    return name.length;
  }

  /** The name. */
  public String name(int principal) {
    return names.text(name[principal]);
  }

  /** Whether it is a user, a role or PUBLIC. */
  public PrincipalKind kind(int principal) {
    return PrincipalKind.values()[kind[principal]];
  }

  /** True for an account that logs in. */
  public boolean isUser(int principal) {
    return kind[principal] == PrincipalKind.USER.ordinal();
  }

  /** Whether the principal itself has that power; memberships are not looked at. */
  public boolean has(int principal, Power power) {
    return (powers[principal] & power.bit()) != 0;
  }

  /** The powers of the principal itself, as bits of {@link Power}. */
  public int powers(int principal) {
    return powers[principal];
  }

  /** The principals that have any power of their own. */
  public IntList powerful() {
    return powerful;
  }

  /** The database the principal is local to, or -1 for the whole server. */
  public int scope(int principal) {
    return scope[principal];
  }

  /** What is known of the account beyond its name. */
  public Account account(int principal) {
    return accounts.getOrDefault(principal, Account.PLAIN);
  }

  /** As {@link #named}, for who asks often. Cost: all principals, once. */
  public Map<String, Integer> byName() {
    Map<String, Integer> found = new HashMap<>();
    for (int principal = 0; principal < name.length; principal++) {
      int known = found.getOrDefault(name(principal), None.PRINCIPAL);
      boolean first = known < 0 || scope[principal] < 0 && scope[known] >= 0;
      boolean lastLocal = known >= 0 && scope[principal] >= 0 && scope[known] >= 0;
      if (first || lastLocal) {
        found.put(name(principal), principal);
      }
    }
    return found;
  }

  /**
   * The principal of exactly that name, or -1; a server-wide one before one local to a database.
   * Cost: all principals.
   */
  public int named(String wanted) {
    int id = names.find(wanted);
    int local = -1;
    for (int principal = 0; id >= 0 && principal < name.length; principal++) {
      if (name[principal] == id) {
        if (scope[principal] < 0) {
          return principal;
        }
        local = principal;
      }
    }
    return local;
  }
}
