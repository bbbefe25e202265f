package fiador.grants;

import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import java.util.function.IntUnaryOperator;

/** The same estate built from nothing, so that an overlay can be compared with it. */
public final class Rebuilt {
  private Rebuilt() {}

  /** Reads everything through the public face of {@code access} and builds it anew. */
  public static Access from(Access access) {
    return from(access, false);
  }

  /** The same, but principals have other ids than they had. */
  public static Access underOtherIds(Access access) {
    return from(access, true);
  }

  private static Access from(Access access, boolean renumber) {
    int last = access.principals().size();
    IntUnaryOperator moved = id -> renumber && id > 0 ? last - id : id;
    AccessBuilder builder = new AccessBuilder();
    EstateBuilder estate = builder.estate();
    Principals people = access.principals();
    for (int at = 1; at < people.size(); at++) {
      int id = moved.applyAsInt(at);
      estate.principal(people.kind(id), people.name(id), people.powers(id), people.scope(id));
      estate.account(at, people.account(id));
    }
    Tree tree = access.tree();
    for (int node = 0; node < tree.size(); node++) {
      NodeKind kind = tree.kind(node);
      estate.node(tree.parent(node), kind, tree.name(node), moved.applyAsInt(tree.owner(node)));
      for (NodeFact fact : NodeFact.values()) {
        if (tree.is(node, fact)) {
          estate.fact(node, fact);
        }
      }
      estate.withheld(node, tree.withheld(node));
      for (int column = 0; column < tree.columns(node); column++) {
        estate.column(tree.column(node, column));
      }
    }
    for (int id = 0; id < people.size(); id++) {
      for (int edge : access.memberships().rolesOf().run(id)) {
        builder.member(
            moved.applyAsInt(id),
            moved.applyAsInt(access.memberships().role(edge)),
            access.memberships().options(edge),
            moved.applyAsInt(access.memberships().grantor(edge)));
      }
      for (int row : access.grants().byGrantee().run(id)) {
        builder.grant(
            moved.applyAsInt(id),
            access.grants().node(row),
            access.grants().terms(row),
            set(builder, access, access.grants().columns(row)),
            moved.applyAsInt(access.grants().grantor(row)));
      }
      for (int row : access.denials().byGrantee().run(id)) {
        builder.denial(
            moved.applyAsInt(id),
            access.denials().node(row),
            access.denials().terms(row),
            set(builder, access, access.denials().columns(row)));
      }
    }
    for (int view = 0; view < tree.size(); view++) {
      Lineage lineage = access.reads().lineage();
      for (int row : lineage.byView().run(view)) {
        builder.shows(
            view,
            lineage.column().get(row),
            lineage.under().get(row),
            lineage.from().get(row),
            lineage.isAsIs(row));
      }
      for (int row : access.reads().byView().run(view)) {
        builder.reads(
            view,
            access.reads().under().get(row),
            set(builder, access, access.reads().columns().get(row)));
      }
    }
    return builder.build(access.about(), access.rules());
  }

  private static int set(AccessBuilder builder, Access access, int columns) {
    return columns == ColumnSets.WHOLE
        ? columns
        : builder.columnSets().intern(access.columnSets().ordinals(columns).clone());
  }
}
