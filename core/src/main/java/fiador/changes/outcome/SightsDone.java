package fiador.changes.outcome;

import fiador.changes.steps.DefineLookup;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Guard;
import fiador.changes.steps.LookupTable;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.Places;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.SightCases;
import fiador.changes.steps.SightSteps;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import java.util.List;
import java.util.Objects;
import java.util.Set;

/** Whether a server already shows what a step about rows and columns does. */
final class SightsDone implements SightCases<Boolean> {
  private final Tree tree;
  private final Sights sights;

  SightsDone(Access access) {
    this.tree = access.tree();
    this.sights = access.sights();
  }

  @Override
  public Boolean guard(Guard step) {
    return sights.guards().containsKey(database(step.database())) == step.make();
  }

  @Override
  public Boolean setAttribute(SetAttribute step) {
    int database = database(step.database());
    List<String> is = List.of();
    for (Sights.Attribute attribute : sights.attributes()) {
      boolean same =
          attribute.database() == database
              && attribute.user().equals(step.user())
              && attribute.name().equals(step.attribute());
      is = same ? attribute.values() : is;
    }
    return Set.copyOf(is).equals(Set.copyOf(step.after()));
  }

  @Override
  public Boolean defineLookup(DefineLookup step) {
    LookupTable is = null;
    String name = step.either().name();
    for (Sights.LookupTable known : sights.lookups()) {
      boolean here = known.database() == database(step.database());
      boolean counts = known.asMade() || step.after() == null;
      if (known.name().equals(name) && here && counts) {
        is = SightSteps.lookupTable(tree, known);
      }
    }
    return Objects.equals(is, step.after());
  }

  @Override
  public Boolean showSafely(ShowSafely step) {
    int node = Places.find(tree, step.either().view());
    Sights.Kept kept = node < 0 ? null : sights.kept().get(node);
    return step.after() == null
        ? node < 0
        : kept != null && kept.asMade() && kept.policies().equals(step.after().policies());
  }

  @Override
  public Boolean filterRows(FilterRows step) {
    Sights.Kept kept = sights.kept().get(Places.find(tree, step.table()));
    return step.after().isEmpty()
        ? kept == null
        : kept != null && kept.asMade() && kept.policies().equals(step.after());
  }

  @Override
  public Boolean moveTable(MoveTable step) {
    return Places.find(tree, step.to()) >= 0 && Places.find(tree, step.from()) < 0;
  }

  private int database(String name) {
    return name == null ? 0 : tree.child(0, name, node -> tree.kind(node) == NodeKind.DATABASE);
  }
}
