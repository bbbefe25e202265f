package fiador.report.text;

import fiador.grants.Access;
import fiador.grants.Sights.Seal;
import fiador.policies.Sealing;
import fiador.policies.Sealing.Passing;
import fiador.report.shown.Shown;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What answers say about the seal on a thing: whom it is open to, and who gets through. */
public final class SealLines {
  private static final int NAMES = 6;

  private final Access access;
  private final Shown shown;
  private final Sealing sealing;

  /** Parameters as for {@link HoldingText}. */
  public SealLines(Access access, Shown shown, Instant now) {
    this.access = access;
    this.shown = shown;
    this.sealing = new Sealing(access, Clock.fixed(now, ZoneOffset.UTC));
  }

  /** The lines about whatever seal is on a thing; none where there is no seal. */
  public List<String> of(int node) {
    Seal seal = sealing.on(node);
    if (seal == null) {
      return List.of();
    }
    List<String> lines = new ArrayList<>();
    lines.add(
        seal.name() + ": open to " + some(seal.openTo().stream().map(shown::principal).toList()));
    List<Passing> passing = sealing.passing(seal, node);
    lines.add(
        passing.isEmpty()
            ? "nobody else gets through"
            : "passed by " + some(passing.stream().map(this::said).toList()));
    return lines;
  }

  /** The same, and first what it means for one who asks. */
  List<String> of(int user, int node, boolean works) {
    Seal seal = sealing.on(node);
    if (seal == null) {
      return List.of();
    }
    String who = shown.principal(user);
    String power = sealing.power(user, node);
    boolean open = sealing.openTo(seal).contains(user);
    List<String> lines = new ArrayList<>();
    lines.add(
        open
            ? "the seal " + seal.name() + " is open to " + who
            : works
                ? who
                    + " passes the seal "
                    + seal.name()
                    + (power == null ? ", which a grant should not give" : " (" + power + ")")
                : "the seal " + seal.name() + " closes it to " + who);
    lines.addAll(of(node));
    return lines;
  }

  /** What opens a thing to one to whom a seal closes it; empty where none does. */
  List<String> openers(int user, int node) {
    Seal seal = sealing.on(node);
    boolean closed = seal != null && !sealing.openTo(seal).contains(user);
    return closed
        ? seal.openTo().stream()
            .filter(id -> !access.principals().isUser(id))
            .map(shown::principal)
            .toList()
        : List.of();
  }

  /** The same for programs; null where there is no seal. */
  public Map<String, Object> document(int node) {
    Seal seal = sealing.on(node);
    if (seal == null) {
      return null;
    }
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("name", seal.name());
    row.put("open_to", seal.openTo().stream().map(id -> access.principals().name(id)).toList());
    List<Map<String, Object>> passed = new ArrayList<>();
    for (Passing one : sealing.passing(seal, node)) {
      Map<String, Object> each = new LinkedHashMap<>();
      each.put("user", access.principals().name(one.user()));
      each.put("by", one.power() == null ? "grant" : one.power());
      passed.add(each);
    }
    row.put("passed_by", passed);
    return row;
  }

  private String said(Passing one) {
    return shown.principal(one.user())
        + " ("
        + (one.power() == null ? "by a grant" : one.power())
        + ")";
  }

  private static String some(List<String> names) {
    List<String> first = names.stream().limit(NAMES).toList();
    int more = names.size() - first.size();
    return String.join(", ", first) + (more > 0 ? " and " + more + " more" : "");
  }
}
