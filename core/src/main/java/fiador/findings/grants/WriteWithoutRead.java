package fiador.findings.grants;

import fiador.changes.steps.Grant;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Roles that change rows they cannot look for. */
public final class WriteWithoutRead implements Check {
  static final Asked ASKED =
      new Asked(
          "write-without-read",
          Severity.MEDIUM,
          "Who may update or delete rows but not read the table to find them?",
          "Grant select on the same table, or take the write right away.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Grants grants = facts.access.grants();
    for (int grantee = 1; grantee < facts.people.size(); grantee++) {
      if (!facts.isOurs(grantee)) {
        continue;
      }
      for (int row : grants.byGrantee().run(grantee)) {
        long bits = grants.terms(row).privileges() & WRITES;
        int node = grants.node(row);
        boolean table = facts.tree.kind(node) == NodeKind.TABLE;
        if (bits == 0 || !table || facts.tree.isSystem(node) || covered(facts, grantee, node)) {
          continue;
        }
        IntArrayList without = new IntArrayList();
        for (int user : facts.usersOf(grantee)) {
          if (!covered(facts, user, node)) {
            without.add(user);
          }
        }
        if (!without.isEmpty()) {
          Phrase said = Phrase.of("may ").privileges(bits).say(" on ").where(node);
          found.accept(
              Finding.about(ASKED, grantee, said.say(" and may not read it"))
                  .on(node)
                  .concerns(without)
                  .mendedBy(
                      List.of(
                          new Grant(
                              Privilege.SELECT.bit(),
                              facts.taking.on(node),
                              List.of(),
                              facts.people.name(grantee),
                              false))));
        }
      }
    }
  }

  private static final long WRITES = PrivilegeSet.of(Privilege.UPDATE, Privilege.DELETE);

  private static boolean covered(Facts facts, int principal, int node) {
    Grants grants = facts.access.grants();
    int kind = facts.tree.kind(node).bit();
    int safe = facts.safeViewOf(node);
    if (safe >= 0 && covered(facts, principal, safe)) {
      return true;
    }
    for (int at = node; at >= 0; at = facts.tree.parent(at)) {
      int owner = facts.tree.owner(at);
      if (owner >= 0 && facts.stamps.holds(principal, owner)) {
        return true;
      }
      for (int place = grants.byNode().from(at); place < grants.byNode().to(at); place++) {
        int row = grants.byNode().row(place);
        boolean reads = (grants.terms(row).privileges() & Privilege.SELECT.bit()) != 0;
        boolean reaches = at == node || (grants.terms(row).covers() & kind) != 0;
        int holder = grants.grantee(row);
        if (reads
            && reaches
            && (holder == Principals.PUBLIC || facts.stamps.holds(principal, holder))) {
          return true;
        }
      }
    }
    for (int i = 0; i < facts.people.powerful().size(); i++) {
      if (facts.stamps.holds(principal, facts.people.powerful().getInt(i))) {
        return true;
      }
    }
    return false;
  }
}
