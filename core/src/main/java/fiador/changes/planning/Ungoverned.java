package fiador.changes.planning;

import fiador.changes.wanted.Governed;
import fiador.estate.Few;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.SchemaPattern;
import fiador.grants.Terms;
import java.util.Set;
import java.util.TreeSet;

/**
 * What was not given on things by their names, to those whom a charter governs: a charter names
 * things, so it is left alone and said.
 */
final class Ungoverned {
  private static final int NAMED = 4;
  private final Access access;
  private final Governed governed;
  private final Set<String> notes;

  Ungoverned(Access access, Governed governed, Set<String> notes) {
    this.access = access;
    this.governed = governed;
    this.notes = notes;
  }

  /** Adds the notes. Cost: the patterns with the schemas, and the grants and denials. */
  void say() {
    patterns();
    labels(access.grants(), "grants");
    labels(access.denials(), "denials");
  }

  private void patterns() {
    Tree tree = access.tree();
    Set<String> patterns = new TreeSet<>();
    Set<String> grantees = new TreeSet<>();
    for (SchemaPattern pattern : access.patterns()) {
      boolean literal = false;
      for (int schema : tree.children().run(0)) {
        literal |= tree.kind(schema) == NodeKind.SCHEMA && pattern.isOf(tree.name(schema));
      }
      if (!literal && governed.principal(pattern.grantee())) {
        patterns.add(pattern.pattern());
        grantees.add(access.principals().name(pattern.grantee()));
      }
    }
    if (!patterns.isEmpty()) {
      notes.add(
          "grants on schemas by pattern (% and _ that are not escaped) are left alone, a charter"
              + " names schemas: on "
              + Few.of(patterns, NAMED)
              + " to "
              + Few.of(grantees, NAMED));
    }
  }

  private void labels(Grants rows, String what) {
    Set<String> labels = new TreeSet<>();
    Set<String> grantees = new TreeSet<>();
    for (int row = 0; row < (rows.anyLabel() ? rows.size() : 0); row++) {
      Terms terms = rows.terms(row);
      if (terms.label() != Terms.NO_LABEL && governed.principal(rows.grantee(row))) {
        labels.add(access.labelOf(terms));
        grantees.add(access.principals().name(rows.grantee(row)));
      }
    }
    if (!labels.isEmpty()) {
      notes.add(
          what
              + " by label are left alone, a charter names things or labels of its own: by "
              + Few.of(labels, NAMED)
              + " to "
              + Few.of(grantees, NAMED));
    }
  }
}
