package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.SideBySide.How;
import fiador.effects.SideBySide.Line;
import fiador.effects.Tracer;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.Reach;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What two hold, for people: what only one holds, with the way there, and the roles behind it. */
public final class SideBySideText {
  private static final int WAYS_WORTH_LOOKING_UP = 1000;

  private final Access access;
  private final Shown shown;
  private final HoldingWays ways;
  private final int width;
  private final Instant now;

  /** Parameters as for {@link HoldingText}. */
  public SideBySideText(Access access, Tracer tracer, int width, Instant now) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.ways = new HoldingWays(access, tracer, shown);
    this.width = width;
    this.now = now;
  }

  /** What stands in one line: alike in everything but the privilege. */
  private record Group(int node, BitSet columns, How first, How second) {}

  /** The whole answer. */
  public String text(int first, int second, List<Line> lines) {
    List<Line> one = lines.stream().filter(line -> line.second() == null).toList();
    List<Line> other = lines.stream().filter(line -> line.first() == null).toList();
    List<Line> otherwise =
        lines.stream()
            .filter(line -> line.first() != null && line.second() != null && !line.isAlike())
            .toList();
    long alike = lines.stream().filter(Line::isAlike).count();
    String name = shown.principal(first);
    String beside = shown.principal(second);
    StringBuilder text = new StringBuilder();
    text.append(
        Headline.of(
            "%s holds %d that %s does not, %d the other way round, %d alike%s"
                .formatted(
                    name,
                    one.size(),
                    beside,
                    other.size(),
                    alike,
                    otherwise.isEmpty() ? "" : ", " + otherwise.size() + " in different ways"),
            shown.origin(now),
            width));
    text.append('\n');
    only(name, first, one, text);
    only(beside, second, other, text);
    otherwise(name, beside, otherwise, text);
    roles(first, second, text);
    return text.toString();
  }

  private static Map<Group, Long> grouped(List<Line> lines) {
    Map<Group, Long> groups = new LinkedHashMap<>();
    for (Line line : lines) {
      Group group = new Group(line.node(), line.columns(), line.first(), line.second());
      groups.merge(group, line.privilege().bit(), (a, b) -> a | b);
    }
    return groups;
  }

  private void only(String name, int user, List<Line> lines, StringBuilder text) {
    if (lines.isEmpty()) {
      return;
    }
    Columns table = new Columns(width);
    boolean looked = lines.size() <= WAYS_WORTH_LOOKING_UP;
    grouped(lines)
        .forEach(
            (group, bits) -> {
              How how = group.first() == null ? group.second() : group.first();
              table.line(
                  on(group),
                  States.of(how.state()),
                  PrivilegeSet.text(bits) + (how.grantable() ? " (may grant)" : ""),
                  looked ? way(user, bits, group, how) : "");
            });
    text.append('\n').append(Tone.STRONG.of("only " + name)).append('\n').append(table.text());
  }

  private void otherwise(String name, String beside, List<Line> lines, StringBuilder text) {
    if (lines.isEmpty()) {
      return;
    }
    Columns table = new Columns(width);
    table.line("", "", Tone.FAINT.of(name), Tone.FAINT.of(beside));
    grouped(lines)
        .forEach(
            (group, bits) ->
                table.line(
                    on(group), PrivilegeSet.text(bits), how(group.first()), how(group.second())));
    text.append('\n').append(Tone.STRONG.of("both, in different ways")).append('\n');
    text.append(table.text());
  }

  private static String how(How how) {
    return States.of(how.state()) + (how.grantable() ? " (may grant)" : "");
  }

  private String on(Group group) {
    return shown.node(group.node())
        + (group.columns() == null
            ? ""
            : " (" + shown.columns(group.node(), group.columns()) + ")");
  }

  private String way(int user, long bits, Group group, How how) {
    Privilege privilege = Privilege.lowest(bits);
    return ways.of(
        new Holding(user, privilege, group.node(), how.state(), how.grantable(), group.columns()));
  }

  /** The memberships that make the difference. */
  private void roles(int first, int second, StringBuilder text) {
    Reach reach = new Reach(access);
    IntArrayList one = reach.up(first);
    IntArrayList other = reach.up(second);
    Columns table = new Columns(width);
    line(table, first, one, other, reach);
    line(table, second, other, one, reach);
    List<String> both = new ArrayList<>();
    one.forEach(
        (int role) -> {
          if (role != first && other.contains(role)) {
            both.add(shown.principal(role));
          }
        });
    if (!both.isEmpty()) {
      table.line("both", String.join(", ", both));
    }
    String lines = table.text();
    text.append(lines.isEmpty() ? "" : "\n" + Tone.STRONG.of("roles") + "\n" + lines);
  }

  private void line(Columns table, int who, IntArrayList held, IntArrayList others, Reach reach) {
    List<String> roles = new ArrayList<>();
    for (int role : held) {
      if (role != who && !others.contains(role)) {
        IntArrayList chain = reach.chain(who, role);
        String through =
            chain.size() > 2 ? " (through " + shown.principal(chain.getInt(1)) + ")" : "";
        roles.add(shown.principal(role) + through);
      }
    }
    if (!roles.isEmpty()) {
      table.line("only " + shown.principal(who), String.join(", ", roles));
    }
  }
}
