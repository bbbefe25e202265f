package fiador.repairs;

import fiador.changes.steps.Step;
import fiador.findings.check.Facts;
import fiador.findings.check.Phrase;
import fiador.findings.check.Redundancy;
import fiador.grants.Grants;
import java.util.ArrayList;
import java.util.List;

/** What can go because the same comes by another way. */
final class Excess {
  private final Facts facts;

  Excess(Facts facts) {
    this.facts = facts;
  }

  List<Trim.Cut> cuts() {
    List<Trim.Cut> cuts = new ArrayList<>();
    Redundancy redundancy = new Redundancy(facts);
    Grants grants = facts.access.grants();
    var memberships = facts.access.memberships();
    int umbrella = facts.umbrella();
    for (int principal = 1; principal < facts.people.size(); principal++) {
      if (!facts.isOurs(principal) || principal == umbrella) {
        continue;
      }
      for (int row : grants.byGrantee().run(principal)) {
        int by = facts.tree.isSystem(grants.node(row)) ? -1 : redundancy.coveredBy(row);
        boolean goes = by != Redundancy.NOTHING && allCovered(row, redundancy);
        Step step = goes ? facts.plainRevoke(row, -1L) : null;
        if (step != null) {
          Phrase said = Phrase.of("").privileges(grants.terms(row).privileges()).say(" on ");
          said.where(grants.node(row)).say(by == principal ? ", which it has twice" : ", which ");
          if (by != principal) {
            said.who(by).say(" has");
          }
          cuts.add(new Trim.Cut(Trim.Why.IN_EXCESS, principal, said, List.of(step), 0));
        }
      }
      for (int edge : memberships.rolesOf().run(principal)) {
        int through = redundancy.edgeCoveredBy(edge);
        Step step = through < 0 ? null : facts.plainLeave(edge);
        if (step != null) {
          Phrase said = Phrase.of("").who(memberships.role(edge)).say(", which comes through ");
          cuts.add(
              new Trim.Cut(Trim.Why.IN_EXCESS, principal, said.who(through), List.of(step), 0));
        }
      }
    }
    return cuts;
  }

  private boolean allCovered(int row, Redundancy redundancy) {
    for (int other : facts.takenWith(row)) {
      if (redundancy.coveredBy(other) == Redundancy.NOTHING) {
        return false;
      }
    }
    return true;
  }
}
