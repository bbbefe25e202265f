package fiador.cli.sweep;

import fiador.report.shown.Tone;
import fiador.report.text.Columns;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;

/**
 * Rights of many as a few lines: one for each account, with how much it is and some of it. Rows
 * come in the order of people, servers, accounts.
 */
final class HeldRows {
  private static final int MOST_LINES = 60;
  private static final int NAMES = 3;

  private final Columns lines;
  private final Set<String> people = new LinkedHashSet<>();
  private final Set<String> servers = new TreeSet<>();
  private long accounts;
  private long rows;

  HeldRows(int width) {
    this.lines = new Columns(width);
  }

  /** What one account has. */
  private static final class Account {
    final String person;
    final String personName;
    final String server;
    final String name;
    final String from;
    final Map<String, Set<String>> objects = new LinkedHashMap<>();
    final Set<String> limits = new TreeSet<>();
    long rows;

    Account(Map<String, Object> row) {
      this.person = Objects.toString(row.get("person"), "");
      this.personName = Objects.toString(row.get("person_name"), person);
      this.server = text(row, "server");
      this.name = text(row, "account");
      this.from = text(row, "from_server");
    }

    boolean isOf(Map<String, Object> row) {
      return server.equals(text(row, "server"))
          && name.equals(text(row, "account"))
          && from.equals(text(row, "from_server"));
    }

    void take(Map<String, Object> row) {
      rows++;
      objects
          .computeIfAbsent(text(row, "privilege"), none -> new LinkedHashSet<>())
          .add(text(row, "object"));
      String state = text(row, "state");
      if (!state.equals("live")) {
        limits.add(state);
      }
      if (row.get("rows") != null) {
        limits.add(text(row, "rows").equals("false") ? "no rows" : "rows filtered");
      }
      if (row.get("login") != null) {
        limits.add("as " + text(row, "login"));
      }
      if (Boolean.FALSE.equals(row.get("certain"))) {
        limits.add("not certain");
      }
      if (row.get("masked") != null) {
        limits.add("masked");
      }
      if (row.get("cannot_log_in") != null) {
        limits.add(text(row, "cannot_log_in"));
      }
    }

    List<String> said() {
      List<String> said = new ArrayList<>();
      objects.forEach(
          (privilege, things) -> {
            String some = String.join(", ", things.stream().limit(NAMES).toList());
            int more = things.size() - NAMES;
            said.add(privilege + " " + some + (more > 0 ? " and " + more + " more" : ""));
          });
      return said;
    }
  }

  private static String text(Map<String, Object> row, String field) {
    return Objects.toString(row.get(field), "");
  }

  /** Takes all rows. */
  void take(Iterator<Map<String, Object>> all) {
    Account account = null;
    while (all.hasNext()) {
      Map<String, Object> row = all.next();
      if (account == null || !account.isOf(row)) {
        end(account);
        account = new Account(row);
      }
      account.take(row);
    }
    end(account);
  }

  private void end(Account account) {
    if (account == null) {
      return;
    }
    accounts++;
    rows += account.rows;
    servers.add(account.server);
    String home = account.from.isEmpty() ? account.server : account.from;
    people.add(account.person.isEmpty() ? home + "/" + account.name : account.person);
    if (accounts > MOST_LINES) {
      return;
    }
    String limits = Tone.FAINT.of(String.join("; ", account.limits));
    String who = account.person.isEmpty() ? Tone.FAINT.of("not known") : account.personName;
    List<String> said = account.said();
    for (int at = 0; at < said.size(); at++) {
      boolean first = at == 0;
      lines.line(
          first ? who : "",
          first ? account.server : "",
          first ? account.name + (account.from.isEmpty() ? "" : " of " + account.from) : "",
          said.get(at),
          first ? limits : "");
    }
  }

  long people() {
    return people.size();
  }

  long accounts() {
    return accounts;
  }

  long servers() {
    return servers.size();
  }

  long rows() {
    return rows;
  }

  /** The lines, under a heading. */
  String text() {
    if (accounts == 0) {
      return "";
    }
    String more =
        accounts > MOST_LINES
            ? "\n" + Counted.of(accounts - MOST_LINES, "more account") + "; --format csv has all\n"
            : "";
    return "\n" + lines.text() + more;
  }
}
