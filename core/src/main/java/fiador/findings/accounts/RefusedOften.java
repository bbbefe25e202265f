package fiador.findings.accounts;

import fiador.estate.Privilege;
import fiador.evidence.Evidence.Attempt;
import fiador.evidence.Evidence.Tries;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;

/** Users who kept trying what they may not: too little access, or somebody looking around. */
public final class RefusedOften implements Check {
  public static final Asked ASKED =
      new Asked(
          "refused-often",
          Severity.MEDIUM,
          "Who keeps trying what they may not?",
          "Ask them what they need it for; give it by a role, or find out who works with the account.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    if (facts.evidence == null) {
      return;
    }
    Map<Integer, List<Map.Entry<Attempt, Tries>>> byUser = new TreeMap<>();
    for (Map.Entry<Attempt, Tries> tried : facts.evidence.refused().entrySet()) {
      if (facts.isUser(tried.getKey().user())) {
        byUser.computeIfAbsent(tried.getKey().user(), fresh -> new ArrayList<>()).add(tried);
      }
    }
    byUser.forEach((user, all) -> look(facts, user, all, found));
  }

  private static void look(
      Facts facts, int user, List<Map.Entry<Attempt, Tries>> all, Consumer<Finding> found) {
    int often = facts.limits.refusedTimes();
    long things = all.stream().map(tried -> tried.getKey().node()).distinct().count();
    all.sort(
        Comparator.<Map.Entry<Attempt, Tries>>comparingInt(tried -> -tried.getValue().times())
            .thenComparing(tried -> tried.getKey().node()));
    Map.Entry<Attempt, Tries> most = all.get(0);
    if (things >= often) {
      Phrase said = Phrase.of("tried ").say(things + " things they may not, ");
      found.accept(
          Finding.about(ASKED, user, tried(said, most).say(" most often; somebody looking around?"))
              .concerns(IntArrayList.of(user)));
      return;
    }
    for (Map.Entry<Attempt, Tries> one : all) {
      if (one.getValue().times() >= often) {
        Phrase said = tried(Phrase.of("was refused "), one);
        said.say(" " + one.getValue().times() + " times, last on ");
        said.say(one.getValue().last().atZone(ZoneOffset.UTC).toLocalDate().toString());
        found.accept(
            Finding.about(ASKED, user, said)
                .on(one.getKey().node())
                .concerns(IntArrayList.of(user))
                .apart(one.getKey().privilege().text()));
      }
    }
  }

  private static Phrase tried(Phrase said, Map.Entry<Attempt, Tries> what) {
    Privilege privilege = what.getKey().privilege();
    return said.privileges(privilege.bit()).say(" on ").kindAndWhere(what.getKey().node());
  }
}
