package fiador.files.usage;

import java.io.BufferedReader;
import java.io.IOException;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * MariaDB's audit log as its plugin writes it to files: {@code time,server,user,host,connection,
 * query,operation,database,object,result}, the statement in single quotes with backslashes before
 * quotes and for line ends. Source: MariaDB's documentation, "MariaDB Audit Plugin - Log Format".
 */
final class AuditLog {
  private static final Pattern LINE =
      Pattern.compile(
          "^(\\d{8} \\d\\d:\\d\\d:\\d\\d),([^,]*),([^,]*),([^,]*),(\\d+),(\\d+),QUERY,([^,]*),'(.*)',\\d+$");
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("yyyyMMdd HH:mm:ss");

  private AuditLog() {}

  static void read(BufferedReader lines, Consumer<Entry> to) throws IOException {
    for (String line = lines.readLine(); line != null; line = lines.readLine()) {
      Matcher matcher = LINE.matcher(line);
      if (matcher.matches()) {
        String sql =
            matcher
                .group(8)
                .replace("\\n", "\n")
                .replace("\\t", "\t")
                .replace("\\'", "'")
                .replace("\\\\", "\\");
        to.accept(
            new Entry(
                LocalDateTime.parse(matcher.group(1), TIME)
                    .atZone(ZoneId.systemDefault())
                    .toInstant(),
                matcher.group(3),
                matcher.group(4),
                matcher.group(7),
                sql));
      }
    }
  }
}
