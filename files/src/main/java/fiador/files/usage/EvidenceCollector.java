package fiador.files.usage;

import fiador.evidence.EvidenceBuilder;
import fiador.grants.Access;
import fiador.sqltext.uses.Meaning;
import fiador.sqltext.uses.StatementUses;
import it.unimi.dsi.fastutil.ints.IntArrayList;

/** Makes evidence of statements, for each account that may have sent them. */
final class EvidenceCollector {
  private final EvidenceBuilder evidence;
  private final StatementUses uses;

  EvidenceCollector(Access access, EvidenceBuilder evidence) {
    this.evidence = evidence;
    this.uses = new StatementUses(access);
  }

  /** Adds what a statement uses. */
  void add(IntArrayList users, Entry entry) {
    evidence.statement();
    for (int user : users) {
      evidence.seen(user, entry.at());
    }
    Meaning meaning = uses.of(entry.statement(), entry.database());
    for (Meaning.Needed each : meaning.uses()) {
      for (int user : users) {
        evidence.use(user, each.privilege(), each.node(), each.column(), entry.at());
      }
    }
    if (!meaning.understood()) {
      evidence.unread(entry.statement());
    }
  }
}
