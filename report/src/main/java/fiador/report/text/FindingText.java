package fiador.report.text;

import fiador.changes.steps.Step;
import fiador.findings.Findings;
import fiador.findings.check.Asked;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Access;
import fiador.grants.Unread;
import fiador.report.shown.PageLink;
import fiador.report.shown.PageLink.View;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/** Findings, for people and for programs. */
public final class FindingText {
  /** The fields, in order. */
  public static final List<String> FIELDS =
      List.of(
          "finding",
          "severity",
          "principal",
          "object",
          "what",
          "users",
          "through",
          "remedy",
          "statements",
          "waived",
          "waived_until");

  private static final int LINES_PER_CHECK = 5;
  private static final int NAMES = 8;
  private static final int STATEMENTS = 10;

  private final Access access;
  private final Shown shown;
  private final Shown plain;
  private final int width;
  private final Instant now;
  private final Function<List<Step>, List<String>> statements;
  private final String page;

  /**
   * @param width how wide a line may be
   * @param statements what carries steps out on the server
   */
  public FindingText(
      Access access, int width, Instant now, Function<List<Step>, List<String>> statements) {
    this(access, width, now, statements, null);
  }

  /**
   * As the other.
   *
   * @param page where the page of the estate is, to whose views rows lead; null for nowhere
   */
  public FindingText(
      Access access,
      int width,
      Instant now,
      Function<List<Step>, List<String>> statements,
      String page) {
    this.page = page;
    this.access = access;
    this.shown = Shown.brief(access);
    this.plain = new Shown(access, false);
    this.width = width;
    this.now = now;
    this.statements = statements;
  }

  /** The answer, then the findings by severity, a few of each kind. */
  public String text(Findings.Result result) {
    StringBuilder text = new StringBuilder(head(result.open()));
    for (Severity severity : Severity.values()) {
      Columns lines = new Columns(width);
      Map<String, Integer> counts = new LinkedHashMap<>();
      for (Finding found : result.open()) {
        if (found.asked().severity() == severity) {
          String id = found.asked().id();
          if (counts.merge(id, 1, Integer::sum) <= LINES_PER_CHECK) {
            lines.line(id, subject(found), what(found));
          }
        }
      }
      counts.forEach(
          (id, count) -> {
            if (count > LINES_PER_CHECK) {
              lines.line(id, "", (count - LINES_PER_CHECK) + " more: fiador findings " + id);
            }
          });
      text.append(counts.isEmpty() ? "" : "\n" + heading(severity) + "\n" + lines.text());
    }
    return text + foot(result);
  }

  /** What is found with a supposition and not without, and the other way round. */
  public String difference(Findings.Result without, Findings.Result with) {
    Map<String, Finding> before = byWords(without);
    Map<String, Finding> after = byWords(with);
    Columns lines = new Columns(width);
    for (String sign : List.of("+", "-")) {
      boolean comes = sign.equals("+");
      (comes ? after : before)
          .forEach(
              (words, found) -> {
                if (!(comes ? before : after).containsKey(words)) {
                  lines.line(
                      ChangeText.tone(comes ? "-" : "+").of(sign),
                      found.asked().id(),
                      subject(found),
                      what(found));
                }
              });
    }
    String text = lines.text();
    return "\nbeside what is so now\n" + (text.isEmpty() ? "  nothing changes\n" : text);
  }

  private Map<String, Finding> byWords(Findings.Result result) {
    Map<String, Finding> found = new LinkedHashMap<>();
    result.open().forEach(each -> found.put(each.asked().id() + subject(each) + what(each), each));
    return found;
  }

  /** As bad as it is long. */
  private static String heading(Severity severity) {
    return switch (severity) {
      case HIGH -> Tone.BAD.of("!!! high");
      case MEDIUM -> Tone.PARTLY.of("!! medium");
      case LOW -> Tone.FAINT.of("! low");
    };
  }

  private String head(List<Finding> open) {
    List<String> counts = new ArrayList<>();
    for (Severity severity : Severity.values()) {
      long count = open.stream().filter(found -> found.asked().severity() == severity).count();
      if (count > 0) {
        counts.add(count + " " + severity.text());
      }
    }
    String answer =
        open.isEmpty()
            ? Unread.inWords(access).isEmpty()
                ? "nothing found"
                : "nothing found in what was looked into"
            : (open.size() == 1 ? "1 finding: " : open.size() + " findings: ")
                + String.join(", ", counts);
    return aligned(answer);
  }

  private String aligned(String answer) {
    return Headline.of(answer, shown.origin(now), width) + "\n";
  }

  private String foot(Findings.Result result) {
    Columns lines = new Columns(width);
    if (!result.waived().isEmpty()) {
      String accepted =
          result.waived().stream()
              .map(found -> found.asked().id() + " of " + subject(found))
              .limit(LINES_PER_CHECK)
              .collect(Collectors.joining(", "));
      lines.line("accepted", result.waived().size() + " by waivers: " + accepted);
    }
    for (Findings.Idle idle : result.idle()) {
      lines.line(
          "waiver", idle.waiver().finding() + " on " + idle.waiver().on() + " " + idle.why());
    }
    Map<String, List<String>> missing = new LinkedHashMap<>();
    for (Findings.NotLooked each : result.notLooked()) {
      missing.computeIfAbsent(each.why(), none -> new ArrayList<>()).add(each.asked().id());
    }
    missing.forEach(
        (why, ids) -> lines.line("not looked for", String.join(", ", ids) + ": " + why));
    String unread = Unread.inWords(access);
    if (!unread.isEmpty()) {
      lines.line("not looked into", unread);
    }
    String text = lines.text();
    return text.isEmpty() ? "" : "\n" + text;
  }

  /**
   * All findings of one kind, each with whom it concerns and what mends it.
   *
   * @param notLooked why the check could not be made whole; null where it was
   */
  public String detail(Asked asked, List<Finding> found, String notLooked) {
    StringBuilder text = new StringBuilder();
    String unread = Findings.looksAtThings(asked) ? Unread.inWords(access) : "";
    String missing =
        notLooked != null
            ? "not looked at: " + notLooked
            : unread.isEmpty() ? "" : "not looked into: " + unread;
    String none = notLooked != null ? "" : "nothing found";
    String answer = found.isEmpty() ? none : found.size() + " found";
    String count = answer + (answer.isEmpty() || missing.isEmpty() ? "" : "; ") + missing;
    text.append(aligned(asked.id() + ", " + asked.severity().text() + ": " + count));
    text.append("\n  ").append(asked.question()).append('\n');
    text.append("  ").append(asked.remedy()).append('\n');
    for (Finding each : found) {
      text.append('\n').append("  ").append(subject(each)).append(' ').append(words(each, shown));
      text.append('\n');
      Columns lines = new Columns(width - 4);
      if (each.users().size() > 1) {
        lines.line("concerns", names(each.users()));
      }
      if (!each.path().isEmpty()) {
        lines.line("through", chain(each, shown));
      }
      if (each.waiver() != null) {
        lines.line("accepted", each.waiver().because() + ", until " + each.waiver().until());
      }
      List<Step> repair = each.repair();
      List<String> sql = statements.apply(repair);
      if (sql.isEmpty() && !repair.isEmpty()) {
        lines.line("repair", "this kind of server has no statement for it");
      }
      for (int i = 0; i < Math.min(sql.size(), STATEMENTS); i++) {
        lines.line(i == 0 ? "repair" : "", sql.get(i) + ";");
      }
      if (sql.size() > STATEMENTS) {
        lines.line("", "and " + (sql.size() - STATEMENTS) + " more; --format json has all");
      }
      lines.text().lines().forEach(line -> text.append("    ").append(line).append('\n'));
    }
    return text.toString();
  }

  private String names(List<Integer> users) {
    String some =
        users.stream().limit(NAMES).map(shown::principal).collect(Collectors.joining(", "));
    return users.size() > NAMES ? some + " and " + (users.size() - NAMES) + " more" : some;
  }

  private String chain(Finding found, Shown names) {
    return found.path().intStream().mapToObj(names::principal).collect(Collectors.joining(" > "));
  }

  private String subject(Finding found) {
    return found.principal() >= 0 ? shown.principal(found.principal()) : shown.path(found.node());
  }

  private String what(Finding found) {
    int users = found.users().size();
    boolean own = users == 1 && found.users().getInt(0) == found.principal();
    String concerned = users == 0 || own ? "" : users == 1 ? " (1 user)" : " (" + users + " users)";
    return words(found, shown) + concerned;
  }

  /** What a finding says, with names as the reader needs them. */
  private static String words(Finding found, Shown names) {
    return words(found.said(), names);
  }

  /** What a phrase says, with names as the reader needs them. */
  public static String words(Phrase phrase, Shown names) {
    StringBuilder text = new StringBuilder();
    for (Phrase.Part part : phrase.parts()) {
      if (part instanceof Phrase.Words words) {
        text.append(words.text());
      } else if (part instanceof Phrase.Who who) {
        text.append(names.principal(who.principal()));
      } else if (part instanceof Phrase.Where where) {
        text.append(
            where.columns() != null
                ? names.columns(where.node(), where.columns())
                : where.withKind() ? names.node(where.node()) : names.path(where.node()));
      }
    }
    return text.toString();
  }

  /** The fields of rows, in order. */
  public List<String> fields() {
    List<String> fields = new ArrayList<>(FIELDS);
    if (page != null) {
      fields.add("page");
    }
    return fields;
  }

  /** A link to the view of the page on whom or what a finding is about. */
  private String view(Finding found) {
    boolean somebody = found.principal() >= 0;
    boolean user = somebody && access.principals().isUser(found.principal());
    View about = user ? View.PERSON : somebody ? View.ROLE : View.THING;
    return PageLink.to(page, about, subject(found));
  }

  /** One finding. */
  public Map<String, Object> row(Finding found) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("finding", found.asked().id());
    row.put("severity", found.asked().severity().text());
    row.put("principal", found.principal() < 0 ? null : plain.principal(found.principal()));
    row.put("object", found.node() < 0 ? null : plain.path(found.node()));
    row.put("what", words(found, plain));
    row.put("users", found.users().intStream().mapToObj(plain::principal).toList());
    row.put("through", found.path().isEmpty() ? null : chain(found, plain));
    row.put("remedy", found.asked().remedy());
    row.put("statements", statements.apply(found.repair()));
    if (found.waiver() != null) {
      row.put("waived", found.waiver().because());
      row.put("waived_until", found.waiver().until().toString());
    }
    if (page != null) {
      row.put("page", view(found));
    }
    return row;
  }
}
