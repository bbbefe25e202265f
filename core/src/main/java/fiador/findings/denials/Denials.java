package fiador.findings.denials;

import fiador.estate.PrivilegeSet;
import fiador.findings.check.Facts;
import fiador.findings.check.Phrase;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.BitSet;
import java.util.stream.IntStream;

/** What several checks ask of denials. */
final class Denials {
  private Denials() {}

  /** Adds what a denial is of, and where. */
  static Phrase said(Facts facts, Phrase phrase, int denial) {
    Grants rows = facts.access.denials();
    phrase.privileges(rows.terms(denial).privileges()).say(" on ");
    if (rows.columns(denial) == ColumnSets.WHOLE) {
      return phrase.kindAndWhere(rows.node(denial));
    }
    BitSet columns = new BitSet();
    for (int ordinal : facts.access.columnSets().ordinals(rows.columns(denial))) {
      columns.set(ordinal);
    }
    phrase.columns(rows.node(denial), columns).say(" of ");
    return phrase.kindAndWhere(rows.node(denial));
  }

  /** What tells a denial from others to the same one on the same thing. */
  static String apart(Facts facts, int denial) {
    Grants rows = facts.access.denials();
    String columns =
        rows.columns(denial) == ColumnSets.WHOLE
            ? ""
            : IntStream.of(facts.access.columnSets().ordinals(rows.columns(denial)))
                .mapToObj(ordinal -> facts.tree.column(rows.node(denial), ordinal))
                .sorted()
                .toList()
                .toString();
    return PrivilegeSet.text(rows.terms(denial).privileges()) + columns;
  }

  /** The privileges of a grant to the same one that a denial takes away altogether. */
  static long contradicted(Facts facts, int denial, int grant) {
    Grants denials = facts.access.denials();
    Grants grants = facts.access.grants();
    int on = grants.node(grant);
    int from = denials.node(denial);
    boolean above =
        facts.tree.isInside(on, from)
            && (denials.terms(denial).covers() & facts.tree.kind(on).bit()) != 0;
    boolean same = on == from && covers(facts, denials.columns(denial), grants.columns(grant));
    return above || same
        ? denials.terms(denial).privileges() & grants.terms(grant).privileges()
        : 0;
  }

  private static boolean covers(Facts facts, int denied, int given) {
    if (denied == ColumnSets.WHOLE || given == ColumnSets.WHOLE) {
      return denied == ColumnSets.WHOLE;
    }
    IntOpenHashSet all = new IntOpenHashSet(facts.access.columnSets().ordinals(denied));
    return IntStream.of(facts.access.columnSets().ordinals(given)).allMatch(all::contains);
  }
}
