package fiador.estate;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntList;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Users, roles and PUBLIC, by principal id. PUBLIC is always id 0. */
public final class Principals {
  /** The id of PUBLIC, who is everybody. */
  public static final int PUBLIC = 0;

  private final Names names;
  private final Ints name;
  private final Ints kind;
  private final Ints powers;
  private final Ints scope;
  private final AccountColumns accounts;
  private final IntList powerful;

  Principals(
      Names names, int[] name, int[] kind, int[] powers, int[] scope, AccountColumns accounts) {
    this.names = names;
    this.name = Ints.of(name);
    this.kind = Ints.of(kind);
    this.powers = Ints.of(powers);
    this.scope = Ints.of(scope);
    this.accounts = accounts;
    this.powerful = new IntArrayList();
    for (int id = 0; id < powers.length; id++) {
      if (powers[id] != 0) {
        powerful.add(id);
      }
    }
  }

  private Principals(Names names, ColumnSource source) {
    this.names = names;
    this.name = source.ints("principals.name");
    this.kind = source.ints("principals.kind");
    this.powers = source.ints("principals.powers");
    this.scope = source.ints("principals.scope");
    this.accounts = AccountColumns.take(source);
    this.powerful = IntArrayList.wrap(source.ints("principals.powerful").toArray());
  }

  /** The principals that {@link #put} laid down. Cost: those that have powers. */
  static Principals take(Names names, ColumnSource source) {
    return new Principals(names, source);
  }

  /** Lays them down. */
  void put(ColumnSink sink) {
    sink.ints("principals.name", name);
    sink.ints("principals.kind", kind);
    sink.ints("principals.powers", powers);
    sink.ints("principals.scope", scope);
    sink.ints("principals.powerful", Ints.of(powerful.toIntArray()));
    accounts.put(sink);
  }

  /** The same where some have other names. */
  public Principals renamed(Map<Integer, String> others) {
    if (others.isEmpty()) {
      return this;
    }
    int[] all = name.toArray(size());
    others.forEach((id, other) -> all[id] = names.intern(other));
    return new Principals(
        names, all, kind.toArray(size()), powers.toArray(size()), scope.toArray(size()), accounts);
  }

  /** The same where some have other powers, as bits. */
  public Principals powered(Map<Integer, Integer> others) {
    if (others.isEmpty()) {
      return this;
    }
    int[] all = powers.toArray(size());
    others.forEach((id, bits) -> all[id] = bits);
    return new Principals(
        names, name.toArray(size()), kind.toArray(size()), all, scope.toArray(size()), accounts);
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
    int size = size();
    int[] allNames = name.toArray(size + added.size());
    int[] kinds = kind.toArray(size + added.size());
    int[] allPowers = powers.toArray(size + added.size());
    int[] scopes = scope.toArray(size + added.size());
    for (int i = 0; i < added.size(); i++) {
      allNames[size + i] = names.intern(added.get(i).name());
      kinds[size + i] = added.get(i).kind().ordinal();
      scopes[size + i] = -1;
    }
    gone.forEach(
        (int id) -> {
          kinds[id] = PrincipalKind.ROLE.ordinal();
          allPowers[id] = 0;
          allNames[id] = names.intern("(gone) " + name(id));
        });
    return new Principals(names, allNames, kinds, allPowers, scopes, accounts.with(changed));
  }

  /** How many there are, PUBLIC included. */
  public int size() {
    return name.size();
  }

  /** The name. */
  public String name(int principal) {
    return names.text(name.get(principal));
  }

  /** Whether it is a user, a role or PUBLIC. */
  public PrincipalKind kind(int principal) {
    return PrincipalKind.values()[kind.get(principal)];
  }

  /** True for an account that logs in. */
  public boolean isUser(int principal) {
    return kind.get(principal) == PrincipalKind.USER.ordinal();
  }

  /** Whether the principal itself has that power; memberships are not looked at. */
  public boolean has(int principal, Power power) {
    return (powers.get(principal) & power.bit()) != 0;
  }

  /** The powers of the principal itself, as bits of {@link Power}. */
  public int powers(int principal) {
    return powers.get(principal);
  }

  /** The principals that have any power of their own. */
  public IntList powerful() {
    return powerful;
  }

  /** The database the principal is local to, or -1 for the whole server. */
  public int scope(int principal) {
    return scope.get(principal);
  }

  /** What is known of the account beyond its name. */
  public Account account(int principal) {
    return accounts.of(principal);
  }

  /** As {@link #named}, for who asks often. Cost: all principals, once. */
  public Map<String, Integer> byName() {
    Map<String, Integer> found = new HashMap<>();
    for (int principal = 0; principal < size(); principal++) {
      int known = found.getOrDefault(name(principal), None.PRINCIPAL);
      boolean first = known < 0 || scope.get(principal) < 0 && scope.get(known) >= 0;
      boolean lastLocal = known >= 0 && scope.get(principal) >= 0 && scope.get(known) >= 0;
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
    for (int principal = 0; id >= 0 && principal < size(); principal++) {
      if (name.get(principal) == id) {
        if (scope.get(principal) < 0) {
          return principal;
        }
        local = principal;
      }
    }
    return local;
  }
}
