package fiador.estate;

import fiador.columns.Chars;
import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.time.Instant;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;

/**
 * What is known of accounts beyond their names: in a map, or laid down in columns, of which only
 * those that are asked about are read.
 */
final class AccountColumns {
  /** How many ints there are of each account. */
  private static final int WIDTH = 8;

  private static final int DISABLED = 1;
  private static final int SWITCHING = 2;
  private static final int ENDS = 4;
  private static final int COMMENTED = 8;
  private static final int DATED = 16;

  /** Where each account's facts have the start of its secret, and the end of its comment. */
  private static final int SINCE = 5;

  private static final int TEXT = 7;

  /** What is known instead of what was laid down. */
  private final Map<Integer, Account> instead;

  /** Whose account was laid down, ascending. */
  private final Ints who;

  /**
   * Of each of them: flags, secret, end in seconds (two ints) and nanoseconds, since when the
   * secret is there in seconds (two ints), end of comment.
   */
  private final Ints facts;

  private final Chars comments;

  /** Of each of them one for each kind of limit; below zero for none. */
  private final Ints limits;

  private AccountColumns(
      Map<Integer, Account> instead, Ints who, Ints facts, Chars comments, Ints limits) {
    this.instead = instead;
    this.who = who;
    this.facts = facts;
    this.comments = comments;
    this.limits = limits;
  }

  static AccountColumns of(Map<Integer, Account> accounts) {
    return new AccountColumns(Map.copyOf(accounts), Ints.NONE, Ints.NONE, Chars.NONE, Ints.NONE);
  }

  static AccountColumns take(ColumnSource source) {
    return new AccountColumns(
        Map.of(),
        source.ints("accounts.who"),
        source.ints("accounts.facts"),
        source.chars("accounts.comments"),
        source.ints("accounts.limits"));
  }

  void put(ColumnSink sink) {
    Map<Integer, Account> all = new TreeMap<>();
    for (int at = 0; at < who.size(); at++) {
      all.put(who.get(at), laid(at));
    }
    all.putAll(instead);
    IntArrayList ids = new IntArrayList();
    IntArrayList known = new IntArrayList();
    IntArrayList kept = new IntArrayList();
    StringBuilder texts = new StringBuilder();
    all.forEach(
        (id, account) -> {
          ids.add((int) id);
          Instant until = account.until();
          Instant since = account.secretSince();
          String comment = account.comment();
          texts.append(comment == null ? "" : comment);
          known.add(
              (account.disabled() ? DISABLED : 0)
                  | (account.switching() ? SWITCHING : 0)
                  | (until == null ? 0 : ENDS)
                  | (comment == null ? 0 : COMMENTED)
                  | (since == null ? 0 : DATED));
          known.add(account.secret().ordinal());
          known.add(until == null ? 0 : (int) (until.getEpochSecond() >>> 32));
          known.add(until == null ? 0 : (int) until.getEpochSecond());
          known.add(until == null ? 0 : until.getNano());
          known.add(since == null ? 0 : (int) (since.getEpochSecond() >>> 32));
          known.add(since == null ? 0 : (int) since.getEpochSecond());
          known.add(texts.length());
          for (AccountLimit limit : AccountLimit.values()) {
            int most = account.limits().getOrDefault(limit, -1);
            kept.add(most);
          }
        });
    sink.ints("accounts.who", Ints.of(ids.toIntArray()));
    sink.ints("accounts.facts", Ints.of(known.toIntArray()));
    sink.ints("accounts.limits", Ints.of(kept.toIntArray()));
    sink.chars("accounts.comments", Chars.of(texts.toString()));
  }

  AccountColumns with(Map<Integer, Account> changed) {
    Map<Integer, Account> known = new HashMap<>(instead);
    known.putAll(changed);
    return new AccountColumns(Map.copyOf(known), who, facts, comments, limits);
  }

  Account of(int principal) {
    Account account = instead.get(principal);
    if (account != null || who.size() == 0) {
      return account == null ? Account.PLAIN : account;
    }
    int at = who.search(principal);
    return at < 0 ? Account.PLAIN : laid(at);
  }

  private Account laid(int at) {
    int from = at * WIDTH;
    int flags = facts.get(from);
    long seconds = seconds(from + 2);
    int text = at == 0 ? 0 : facts.get(from - 1);
    boolean commented = (flags & COMMENTED) != 0;
    return new Account(
        (flags & DISABLED) != 0,
        (flags & ENDS) == 0 ? null : Instant.ofEpochSecond(seconds, facts.get(from + 4)),
        commented ? comments.text(text, facts.get(from + TEXT)) : null,
        (flags & SWITCHING) != 0,
        Secret.values()[facts.get(from + 1)],
        (flags & DATED) == 0 ? null : Instant.ofEpochSecond(seconds(from + SINCE)),
        limits(at));
  }

  private Map<AccountLimit, Integer> limits(int at) {
    Map<AccountLimit, Integer> found = new EnumMap<>(AccountLimit.class);
    AccountLimit[] all = AccountLimit.values();
    for (int i = 0; i < all.length; i++) {
      int value = limits.get(at * all.length + i);
      if (value >= 0) {
        found.put(all[i], value);
      }
    }
    return found;
  }

  private long seconds(int at) {
    return (long) facts.get(at) << 32 | (facts.get(at + 1) & 0xFFFF_FFFFL);
  }
}
