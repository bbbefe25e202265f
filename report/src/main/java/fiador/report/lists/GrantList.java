package fiador.report.lists;

import fiador.estate.Adjacency;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.LaterGrant;
import fiador.grants.Terms;
import fiador.history.GrantDates;
import fiador.history.GrantDates.Since;
import fiador.selection.Selection;
import java.io.IOException;
import java.util.BitSet;
import java.util.List;
import java.util.stream.IntStream;

/** Grants, or denials, as the server keeps them: now and for what is still to be created. */
final class GrantList implements Listing {
  private final Source source;
  private final Selection selection;
  private final boolean denials;
  private final boolean together;

  /**
   * A list.
   *
   * @param together whether privileges that go alike stand in one row, as people read them
   */
  GrantList(Source source, boolean denials, boolean together) {
    this.source = source;
    this.selection = source.selection();
    this.denials = denials;
    this.together = together;
  }

  @Override
  public List<String> fields() {
    return List.of(
        "grantee",
        "privilege",
        "kind",
        "object",
        "columns",
        "grantable",
        "by",
        "when",
        "made_by",
        "inside",
        "pattern",
        "until",
        "since",
        "or_earlier",
        "label");
  }

  @Override
  public int telling() {
    return 4;
  }

  @Override
  public Counted counted() {
    return denials ? new Counted("denial", "denials") : new Counted("grant", "grants");
  }

  @Override
  public void rows(Sink sink) throws IOException {
    Grants grants = denials ? source.access().denials() : source.access().grants();
    // of five million grants only those are looked at that are anybody's or anything's who is named
    BitSet grantees = selection.grantees();
    BitSet things = selection.things();
    if (grantees != null) {
      each(grants, grants.byGrantee(), grantees, sink);
    } else if (things != null) {
      each(grants, grants.byNode(), things, sink);
    } else {
      for (int row = 0; row < grants.size(); row++) {
        row(grants, row, sink);
      }
    }
    if (!denials) {
      for (LaterGrant later : source.access().later()) {
        later(later, sink);
      }
    }
  }

  private void each(Grants grants, Adjacency runs, BitSet ids, Sink sink) throws IOException {
    for (int id = ids.nextSetBit(0); id >= 0; id = ids.nextSetBit(id + 1)) {
      for (int at = runs.from(id); at < runs.to(id); at++) {
        row(grants, runs.row(at), sink);
      }
    }
  }

  private void row(Grants grants, int row, Sink sink) throws IOException {
    int node = grants.node(row);
    if (selection.takes(grants.grantee(row))
        && selection.gave(grants.grantor(row))
        && selection.includes(node)
        && (source.system() || selection.namesThings() || !source.access().tree().isSystem(node))) {
      now(grants, row, sink);
    }
  }

  private void now(Grants grants, int row, Sink sink) throws IOException {
    Terms terms = grants.terms(row);
    for (boolean option : new boolean[] {false, true}) {
      long bits = option ? terms.grantable() : terms.privileges() & ~terms.grantable();
      write(
          selection.among(bits),
          sink,
          privilege ->
              start(grants.grantee(row), privilege, grants.node(row))
                  .put("columns", columns(grants, row))
                  .truth("grantable", option)
                  .put("by", source.principal(grants.grantor(row)))
                  .put("when", "now")
                  .put("inside", terms.covers() != 0)
                  .put("pattern", pattern(terms))
                  .put("until", Source.until(terms.until()))
                  .put("since", since(row, privilege))
                  .put("or_earlier", orEarlier(row, privilege))
                  .put("label", label(terms)));
    }
  }

  private Since dated(int row, String privilege) {
    boolean dated = source.dates() != null && !denials;
    Privilege named = dated ? Privilege.named(privilege) : null;
    return named == null ? null : source.dates().get(GrantDates.key(source.access(), row, named));
  }

  private String since(int row, String privilege) {
    Since since = dated(row, privilege);
    return since == null ? null : Source.time(since.when());
  }

  /** Whether no older state is known that could tell. */
  private Boolean orEarlier(int row, String privilege) {
    Since since = dated(row, privilege);
    return since == null ? null : since.orEarlier();
  }

  private Row start(int grantee, String privilege, int node) {
    return new Row()
        .put("grantee", source.principal(grantee))
        .put("privilege", privilege)
        .put("kind", source.access().tree().kind(node).contractName())
        .put("object", source.shown().path(node));
  }

  private List<String> columns(Grants grants, int row) {
    int set = grants.columns(row);
    return set == ColumnSets.WHOLE
        ? null
        : IntStream.of(source.access().columnSets().ordinals(set))
            .mapToObj(ordinal -> source.shown().column(grants.node(row), ordinal))
            .toList();
  }

  private String pattern(Terms terms) {
    return terms.pattern() == Terms.NO_PATTERN
        ? null
        : source.access().patterns().get(terms.pattern()).pattern();
  }

  private String label(Terms terms) {
    return terms.label() == Terms.NO_LABEL ? null : source.shown().label(terms);
  }

  private void later(LaterGrant later, Sink sink) throws IOException {
    if (!selection.includes(later.in())) {
      return;
    }
    for (LaterGrant.Given given : later.given()) {
      if (!selection.takes(given.grantee()) || !selection.gave(None.PRINCIPAL)) {
        continue;
      }
      for (boolean option : new boolean[] {false, true}) {
        long bits = option ? given.grantable() : given.privileges() & ~given.grantable();
        write(
            selection.among(bits),
            sink,
            privilege ->
                start(given.grantee(), privilege, later.in())
                    .truth("grantable", option)
                    .put("when", "later, every " + later.kind().text())
                    .put("made_by", source.principal(later.creator())));
      }
    }
  }

  private interface Make {
    Row of(String privilege);
  }

  private void write(long bits, Sink sink, Make make) throws IOException {
    if (together && bits != 0) {
      sink.row(make.of(PrivilegeSet.text(bits)).values());
      return;
    }
    for (long rest = bits; rest != 0; rest &= rest - 1) {
      sink.row(make.of(Privilege.lowest(rest).text()).values());
    }
  }
}
