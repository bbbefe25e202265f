package fiador.findings.grants;

import fiador.changes.planning.Ending;
import fiador.changes.planning.Plan;
import fiador.changes.steps.About;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Period;
import fiador.changes.wanted.StoredName;
import fiador.changes.wanted.Wanted;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** Roles and grants that the charter gave for a time that is over, and that are still there. */
public final class PastTerm implements Check {
  public static final Asked ASKED =
      new Asked(
          "past-term",
          Severity.HIGH,
          "What was given for a time that is over, and is still there?",
          "Run fiador settle --only-ended; have a timer run it.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  /** Whose, and which role; all things together. */
  private record Held(String holder, @Nullable String role) {}

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Wanted ended = facts.expected.demanded().endedBy(facts.now);
    if (ended.memberships().isEmpty() && ended.grants().isEmpty()) {
      return;
    }
    Plan plan =
        Ending.plan(facts.access, facts.expected.demanded(), facts.expected.ours(), facts.clock);
    Map<Held, List<Step>> byHolder = new LinkedHashMap<>();
    for (Step step : plan.steps()) {
      About about = step.about();
      if (about.holder() != null && about.held() != null) {
        byHolder
            .computeIfAbsent(new Held(about.holder(), about.role()), fresh -> new ArrayList<>())
            .add(step);
      }
    }
    Map<Held, Instant> ends = ends(facts, ended);
    byHolder.forEach(
        (held, steps) -> {
          Instant end = ends.get(held);
          int holder = facts.people.named(held.holder());
          if (end != null && facts.isOurs(holder)) {
            found.accept(finding(facts, held, holder, steps, Period.endText(end)));
          }
        });
  }

  private static Finding finding(Facts facts, Held held, int holder, List<Step> steps, String end) {
    Phrase said;
    if (held.role() != null) {
      said = Phrase.of("still holds ").who(facts.people.named(held.role()));
    } else {
      About first = steps.get(0).about();
      int node = Places.node(facts.tree, first.on());
      String more = steps.size() > 1 ? " and " + (steps.size() - 1) + " more" : "";
      said = Phrase.of("still has grants on ").where(node).say(more);
    }
    return Finding.about(ASKED, holder, said.say(", given until " + end))
        .apart(held.role() == null ? "" : held.role())
        .concerns(facts.usersOf(holder))
        .mendedBy(steps);
  }

  /** When each was over at the latest. */
  private static Map<Held, Instant> ends(Facts facts, Wanted ended) {
    var rules = facts.access.rules();
    Map<String, List<String>> accounts = StoredName.accounts(ended, facts.access);
    Map<Held, Instant> found = new HashMap<>();
    for (Wanted.Member one : ended.memberships()) {
      String role = StoredName.of(one.role(), rules);
      String stored = accounts.getOrDefault(one.role(), List.of(role)).get(0);
      accounts
          .getOrDefault(one.member(), List.of())
          .forEach(name -> latest(found, new Held(name, stored), one.when()));
    }
    for (Wanted.Grant one : ended.grants()) {
      accounts
          .getOrDefault(one.grantee(), List.of())
          .forEach(name -> latest(found, new Held(name, null), one.when()));
    }
    return found;
  }

  private static void latest(Map<Held, Instant> found, Held held, Period when) {
    found.merge(held, when.until(), (one, other) -> one.isAfter(other) ? one : other);
  }
}
