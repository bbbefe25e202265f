package fiador.report.lists;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.policies.Seeing;
import fiador.selection.Selection;
import java.io.IOException;
import java.util.List;

/** Databases, schemas and what is in them, with their owners. */
final class ObjectList implements Listing {
  private final Source source;
  private final Selection selection;
  private final Seeing seeing;

  ObjectList(Source source) {
    this.source = source;
    this.selection = source.selection();
    this.seeing = new Seeing(source.access());
  }

  @Override
  public List<String> fields() {
    return List.of(
        "kind",
        "object",
        "owner",
        "columns",
        "grants",
        "acts_as",
        "policies",
        "not_read",
        "sealed");
  }

  @Override
  public Counted counted() {
    return new Counted("object", "objects");
  }

  @Override
  public String remark() {
    return "grants are those on the object itself";
  }

  @Override
  public void rows(Sink sink) throws IOException {
    Tree tree = source.access().tree();
    for (int node = 1; node < tree.size(); node++) {
      boolean wanted = source.system() || selection.namesThings() || !tree.isSystem(node);
      boolean theirs = tree.owner(node) < 0 ? !selection.namesPeople() : owned(tree.owner(node));
      if (wanted && theirs && selection.includes(node)) {
        sink.row(row(tree, node));
      }
    }
  }

  private boolean owned(int owner) {
    return selection.takes(owner);
  }

  private java.util.Map<String, Object> row(Tree tree, int node) {
    NodeKind kind = tree.kind(node);
    var byNode = source.access().grants().byNode();
    Row row =
        new Row()
            .put(
                "kind",
                source.access().seen().abroad().placeOf(node) == null
                    ? kind.text()
                    : "foreign table")
            .put("object", source.shown().path(node))
            .put("owner", source.principal(tree.owner(node)));
    if (tree.columns(node) > 0) {
      row.count("columns", tree.columns(node));
    }
    boolean runs = kind == NodeKind.VIEW || kind == NodeKind.ROUTINE;
    return row.count("grants", byNode.to(node) - byNode.from(node))
        .put("acts_as", runs ? tree.is(node, NodeFact.INVOKER) ? "who asks" : "its owner" : null)
        .put("policies", seeing.decides(node))
        .put("not_read", tree.is(node, NodeFact.UNREAD))
        .put("sealed", tree.is(node, NodeFact.SEALED))
        .values();
  }
}
