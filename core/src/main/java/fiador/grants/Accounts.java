package fiador.grants;

import fiador.estate.Estate;
import fiador.estate.NodeFact;
import fiador.estate.Principals;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.objects.Object2IntOpenHashMap;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * How accounts go together where an account is a name and a host: which other accounts' grants
 * count for a session, and which of several rows about one thing comes first.
 */
public final class Accounts {
  private final Principals principals;
  private final int[] hostRank;
  private final int[] patternRank;
  private final int patternRanks;
  private final boolean[] anonymous;
  private final Map<Integer, int[]> named = new HashMap<>();
  private final Map<Integer, int[]> nameless = new HashMap<>();
  private final Map<Integer, int[]> countingFor = new HashMap<>();
  private final IntArrayList namelessAnywhere = new IntArrayList();
  private final boolean publicUsed;

  Accounts(Estate estate, List<SchemaPattern> patterns) {
    this.principals = estate.principals();
    int size = principals.size();
    this.anonymous = new boolean[size];
    HostPattern[] hosts = new HostPattern[size];
    Map<String, IntArrayList> byName = new HashMap<>();
    for (int id = 0; id < size; id++) {
      if (principals.isUser(id)) {
        AccountName account = AccountName.of(principals.name(id));
        hosts[id] = new HostPattern(account.host());
        anonymous[id] = account.isAnonymous();
        byName.computeIfAbsent(account.user(), fresh -> new IntArrayList()).add(id);
      }
    }
    this.hostRank = ranks(hosts);
    Wildcard[] wildcards = new Wildcard[patterns.size()];
    for (int i = 0; i < wildcards.length; i++) {
      wildcards[i] = new Wildcard(patterns.get(i).pattern());
    }
    this.patternRank = ranks(wildcards);
    this.patternRanks = patterns.size() + 1;
    boolean resolving = !estate.tree().is(0, NodeFact.ADDRESSES_ONLY);
    connect(byName, hosts, resolving);
    this.publicUsed = estate.tree().is(0, NodeFact.PUBLIC_USED);
    byName
        .getOrDefault("", new IntArrayList())
        .forEach(
            (int id) -> {
              // roles and PUBLIC are looked up as coming from a host without a name
              if (hosts[id].matches(Set.of(""))) {
                namelessAnywhere.add(id);
              }
            });
  }

  private void connect(Map<String, IntArrayList> byName, HostPattern[] hosts, boolean resolving) {
    Map<Integer, IntArrayList> reverse = new HashMap<>();
    IntArrayList everybody = byName.getOrDefault("", new IntArrayList());
    for (IntArrayList sameName : byName.values()) {
      for (int i = 0; i < sameName.size(); i++) {
        int id = sameName.getInt(i);
        if (sameName.size() == 1 && everybody.isEmpty()) {
          continue;
        }
        Set<String> client = hosts[id].client(resolving);
        int[] others = matching(sameName, id, hosts, client);
        named.put(id, others);
        for (int other : others) {
          reverse.computeIfAbsent(other, fresh -> new IntArrayList()).add(id);
        }
        if (!anonymous[id]) {
          nameless.put(id, matching(everybody, id, hosts, client));
        }
      }
    }
    reverse.forEach((id, users) -> countingFor.put(id, users.toIntArray()));
  }

  private static int[] matching(
      IntArrayList among, int but, HostPattern[] hosts, Set<String> client) {
    IntArrayList found = new IntArrayList();
    for (int i = 0; i < among.size(); i++) {
      int id = among.getInt(i);
      if (id != but && hosts[id].matches(client)) {
        found.add(id);
      }
    }
    return found.toIntArray();
  }

  /** Dense ranks, equal for equals, the first in order 0. Entries without a value get 0. */
  private static <T extends Comparable<T>> int[] ranks(T[] values) {
    List<T> sorted = new ArrayList<>();
    for (T value : values) {
      if (value != null) {
        sorted.add(value);
      }
    }
    sorted.sort(null);
    Object2IntOpenHashMap<T> rankOf = new Object2IntOpenHashMap<>();
    int rank = 0;
    for (int i = 0; i < sorted.size(); i++) {
      rank += i > 0 && sorted.get(i).compareTo(sorted.get(i - 1)) != 0 ? 1 : 0;
      rankOf.put(sorted.get(i), rank);
    }
    int[] ranks = new int[values.length];
    for (int i = 0; i < ranks.length; i++) {
      ranks[i] = values[i] == null ? 0 : rankOf.getInt(values[i]);
    }
    return ranks;
  }

  /**
   * The account that acts where one is named that is not there: another of its name whose host
   * pattern fits the named host.
   *
   * @param known all accounts
   * @return null if there is none
   */
  public static AccountName standIn(AccountName named, Collection<AccountName> known) {
    Set<String> client = Set.of(named.host().toLowerCase(Locale.ROOT));
    return known.stream()
        .filter(account -> account.user().equals(named.user()))
        .filter(account -> new HostPattern(account.host()).matches(client))
        .min(Comparator.comparing(account -> new HostPattern(account.host())))
        .orElse(null);
  }

  /**
   * The other accounts of the same name whose grants on schemas, tables and routines count for
   * sessions of this one.
   */
  public int[] sameName(int user) {
    return named.getOrDefault(user, new int[0]);
  }

  /** The anonymous accounts whose grants on schemas count for sessions of this one. */
  public int[] nameless(int user) {
    return nameless.getOrDefault(user, new int[0]);
  }

  /** The anonymous accounts that even a session without a host comes under. */
  public int[] nameless() {
    return namelessAnywhere.toIntArray();
  }

  /** Whether PUBLIC is looked up at all. */
  public boolean publicUsed() {
    return publicUsed;
  }

  /**
   * The accounts for whose sessions this one's grants count too; {@link #sameName} turned round.
   */
  public int[] countingFor(int user) {
    return countingFor.getOrDefault(user, new int[0]);
  }

  /**
   * The place of a row among those about one thing; the lowest counts. Accounts that are as close
   * to a client as each other come in the order of the survey, which is that of their names.
   *
   * @return a number that is comparable only within one node
   */
  public long rank(Grants grants, int row) {
    int grantee = grants.grantee(row);
    int pattern = grants.terms(row).pattern();
    long rank = hostRank[grantee];
    rank = rank * patternRanks + (pattern < 0 ? 0 : patternRank[pattern]);
    rank = rank * 2 + (anonymous[grantee] ? 1 : 0);
    return rank * principals.size() + (principals.isUser(grantee) ? grantee : 0);
  }
}
