package fiador.files.usage;

import java.io.BufferedReader;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.HashMap;
import java.util.Map;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * MariaDB's general log: a line for each command, with the connection's number; a time where it has
 * changed; statements over several lines as they are. Who a connection is stands where it begins.
 * Times are the server's local ones; this machine's zone is taken for it.
 */
final class GeneralLog {
  private static final Pattern LINE =
      Pattern.compile(
          "^(\\d{6} {1,2}\\d{1,2}:\\d\\d:\\d\\d)?\\t{1,2} *(\\d+) ([A-Z][A-Za-z ]*)\\t(.*)$");
  private static final Pattern WHO = Pattern.compile("^(.*)@([^@ ]*) (?:as \\S+ )?on (\\S*) ?.*$");
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyMMdd H:mm:ss");

  private static final int LONGEST = 16 << 20;

  private final Consumer<Entry> to;
  private final Map<String, String[]> sessions = new HashMap<>();
  private Instant at;
  private String id;
  private String command = "";
  private StringBuilder text = new StringBuilder();

  GeneralLog(Consumer<Entry> to) {
    this.to = to;
  }

  void read(BufferedReader lines) throws IOException {
    for (String line = lines.readLine(); line != null; line = lines.readLine()) {
      Matcher matcher = LINE.matcher(line);
      if (matcher.matches()) {
        finish();
        if (matcher.group(1) != null) {
          String time = matcher.group(1).replaceAll(" +", " ");
          at = LocalDateTime.parse(time, TIME).atZone(ZoneId.systemDefault()).toInstant();
        }
        id = matcher.group(2);
        command = matcher.group(3);
        text = new StringBuilder(matcher.group(4));
      } else {
        // what is longer than any statement is none that was meant
        if (text.length() < LONGEST) {
          text.append('\n').append(line);
        }
      }
    }
    finish();
  }

  private void finish() {
    String argument = text.toString();
    String[] session = sessions.get(id);
    switch (command) {
      case "Connect", "Change user" -> {
        Matcher who = WHO.matcher(argument);
        if (who.matches()) {
          sessions.put(id, new String[] {who.group(1), who.group(2), who.group(3)});
        }
      }
      case "Init DB" -> {
        if (session != null) {
          session[2] = argument;
        }
      }
      case "Quit" -> sessions.remove(id);
      case "Query", "Execute" -> query(session, argument);
      default -> {
        // what else is logged needs no privilege on anything
      }
    }
    command = "";
  }

  private void query(String[] session, String sql) {
    Matcher use = Pattern.compile("(?i)^\\s*use\\s+`?([^`;\\s]+)`?").matcher(sql);
    if (session != null && use.find()) {
      session[2] = use.group(1);
    }
    if (at != null) {
      String user = session == null ? "(unknown connection)" : session[0];
      String host = session == null ? null : session[1];
      to.accept(new Entry(at, user, host, session == null ? null : session[2], sql));
    }
  }
}
