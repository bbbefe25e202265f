package fiador.report.text;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.report.shown.NoLogin;
import fiador.report.shown.Shown;
import fiador.reviews.Answer;
import fiador.reviews.Decision;
import fiador.reviews.Drafting.Draft;
import fiador.reviews.Drafting.Group;
import fiador.reviews.Freshness;
import fiador.reviews.Line;
import fiador.reviews.Means;
import fiador.reviews.Review;
import fiador.reviews.Revocations;
import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A review in words: what its lines are about, and how far it has come. */
public final class ReviewText {
  /** The fields of lines, in order. */
  public static final List<String> FIELDS =
      List.of(
          "line",
          "reviewer",
          "person",
          "may",
          "through",
          "since",
          "last_used",
          "findings",
          "decision",
          "remark",
          "decided",
          "stale",
          "whose");

  private static final int NAMES = 5;

  private ReviewText() {}

  /** Whom a line is about. */
  public static String person(Access access, Draft draft) {
    return draft.about().means() == Means.EVERYBODY
        ? "everybody"
        : new Shown(access, true).principal(draft.user());
  }

  /**
   * Through what somebody has it, and whether that is of no use now because the account is closed.
   */
  public static String through(Access access, Draft draft, Instant now) {
    String noLogin =
        draft.about().means() == Means.EVERYBODY ? null : NoLogin.why(access, draft.user(), now);
    return through(access, draft) + (noLogin == null ? "" : "; cannot log in: " + noLogin);
  }

  private static String through(Access access, Draft draft) {
    return switch (draft.about().means()) {
      case ROLE ->
          "role "
              + new Shown(access, true).principal(draft.role())
              + (draft.admin() ? ", may give it on" : "");
      case GRANT -> "granted to the person";
      case OWNER -> "owner";
      case POWER -> "the account itself";
      case EVERYBODY -> "granted to everybody";
    };
  }

  /** What it lets them do: {@code read billing.customers and 2 more; change billing.invoices}. */
  public static String may(Access access, Draft draft) {
    Shown shown = Shown.brief(access);
    Map<String, List<String>> said = new LinkedHashMap<>();
    for (Power power : Power.values()) {
      if ((draft.powers() & power.bit()) != 0) {
        said.computeIfAbsent("has the power", none -> new ArrayList<>()).add(power.text());
      }
    }
    for (Group group : draft.given()) {
      List<String> names = said.computeIfAbsent(verb(access, group), none -> new ArrayList<>());
      for (int node : group.nodes()) {
        names.add(name(access, shown, group, node));
      }
    }
    List<String> parts = new ArrayList<>();
    said.forEach((verb, names) -> parts.add(verb + " " + some(names)));
    return String.join("; ", parts);
  }

  private static String some(List<String> names) {
    return names.size() <= NAMES
        ? String.join(", ", names)
        : String.join(", ", names.subList(0, NAMES - 1))
            + " and "
            + (names.size() - NAMES + 1)
            + " more";
  }

  private static String name(Access access, Shown shown, Group group, int node) {
    NodeKind kind = access.tree().kind(node);
    boolean said = kind == NodeKind.TABLE || kind == NodeKind.VIEW;
    String name = said ? shown.path(node) : shown.node(node);
    if (group.inside()) {
      name = "everything in " + (node == 0 ? "the server" : name);
    }
    if (group.columns() != null) {
      BitSet columns = new BitSet();
      for (int ordinal : group.columns()) {
        columns.set(ordinal);
      }
      name += " (" + shown.columns(node, columns) + ")";
    }
    return name;
  }

  /** What privileges come to in plain words. */
  private static String verb(Access access, Group group) {
    if (group.owned()) {
      return "own";
    }
    long rest = group.privileges();
    NodeKind kind = access.tree().kind(group.nodes().get(0));
    List<String> verbs = new ArrayList<>();
    boolean all = rest == access.rules().privilegesOn(kind) && Long.bitCount(rest) > 1;
    if (all && !group.inside()) {
      verbs.add("do everything with");
      rest = 0;
    }
    long write = Privilege.INSERT.bit() | Privilege.UPDATE.bit() | Privilege.DELETE.bit();
    rest = said(rest, Privilege.SELECT.bit(), "read", verbs);
    rest = said(rest, write, "change", verbs);
    rest = said(rest, Privilege.INSERT.bit(), "add rows to", verbs);
    rest = said(rest, Privilege.UPDATE.bit(), "change values in", verbs);
    rest = said(rest, Privilege.DELETE.bit(), "delete rows from", verbs);
    rest = said(rest, Privilege.EXECUTE.bit(), "run", verbs);
    boolean schema = kind == NodeKind.SCHEMA && !group.inside();
    rest = said(rest, Privilege.USAGE.bit(), schema ? "enter" : "use", verbs);
    rest = said(rest, Privilege.CREATE.bit(), "create in", verbs);
    if (rest != 0) {
      verbs.add(PrivilegeSet.text(rest) + " on");
    }
    return String.join(" and ", verbs) + (group.grantable() == 0 ? "" : ", and give that on,");
  }

  private static long said(long rest, long bits, String verb, List<String> verbs) {
    if ((rest & bits) != bits) {
      return rest;
    }
    verbs.add(verb);
    return rest & ~bits;
  }

  /** Why a revocation is left to the administrator. */
  public static String why(Access access, Revocations.Left left) {
    return FindingText.words(left.why(), Shown.brief(access));
  }

  /**
   * How far a review has come.
   *
   * @param access the newest survey
   * @param today whether the facts are still so; null where that does not matter
   */
  public static String status(Review review, Access access, Freshness today, int width) {
    StringBuilder text = new StringBuilder();
    int all = review.lines().size();
    String answer =
        review.name()
            + ": "
            + (review.closed() != null ? "closed, " : "")
            + review.decided()
            + " of "
            + all
            + (all == 1 ? " line decided" : " lines decided");
    String origin =
        review.server()
            + ", opened "
            + Shown.time(review.opened())
            + (review.closed() == null ? "" : ", closed " + Shown.time(review.closed()));
    text.append(Headline.of(answer, origin, width)).append("\n\n");
    Columns table = new Columns(width);
    table.line("reviewer", " lines", "  keep", "revoke", "unsure", "  open", "");
    for (String reviewer : review.reviewers()) {
      int[] counts = new int[Answer.values().length];
      List<Line> lines = review.linesOf(reviewer);
      int done = 0;
      for (Line line : lines) {
        Decision decision = review.decision(line.key());
        if (decision != null) {
          counts[decision.answer().ordinal()]++;
          done++;
        }
      }
      table.line(
          reviewer,
          number(lines.size()),
          number(counts[0]),
          number(counts[1]),
          number(counts[2]),
          number(lines.size() - done),
          bar(done, lines.size()));
    }
    text.append(table.text());
    if (today != null && !today.isFresh()) {
      stale(access, today, text, width);
    }
    return text.toString();
  }

  private static String number(int count) {
    return count == 0 ? "     -" : String.format("%6d", count);
  }

  private static String bar(int done, int all) {
    int filled = all == 0 ? 20 : done * 20 / all;
    return "[" + "#".repeat(filled) + ".".repeat(20 - filled) + "]" + (done == all ? " done" : "");
  }

  private static void stale(Access access, Freshness today, StringBuilder text, int width) {
    text.append("\nno longer as it was when it was asked; fiador review refresh asks again\n");
    Columns lines = new Columns(width);
    int said = 0;
    for (Line line : today.changed()) {
      if (said++ < 8) {
        lines.line("gives something else", line.key(), line.who(), line.through());
      }
    }
    for (Line line : today.gone()) {
      if (said++ < 8) {
        lines.line("is gone", line.key(), line.who(), line.through());
      }
    }
    for (Draft draft : today.added()) {
      if (said++ < 8) {
        lines.line("is new", "", person(access, draft), through(access, draft));
      }
    }
    text.append(lines.text());
    text.append(said > 8 ? "  and " + (said - 8) + " more; --format json has all\n" : "");
  }

  /** One line. */
  public static Map<String, Object> row(Review review, Line line, Freshness today) {
    Decision decision = review.decision(line.key());
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("line", line.key());
    row.put("reviewer", line.reviewer());
    row.put("person", line.person());
    row.put("may", line.may());
    row.put("through", line.through());
    row.put("since", line.since().isEmpty() ? null : line.since());
    row.put("last_used", line.lastUsed().isEmpty() ? null : line.lastUsed());
    row.put("findings", line.findings());
    row.put("decision", decision == null ? null : decision.answer().text());
    row.put("remark", decision == null ? null : decision.remark());
    row.put("decided", decision == null ? null : decision.at().toString());
    boolean stale =
        today != null && (today.changed().contains(line) || today.gone().contains(line));
    row.put("stale", stale);
    row.put("whose", line.whose());
    return row;
  }
}
