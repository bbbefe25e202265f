package fiador.changes.steps;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;

/** What a login needs for steps about rows and columns. */
final class SightAbility implements SightCases<Void> {
  private static final long GUARDING =
      PrivilegeSet.of(
          Privilege.CREATE,
          Privilege.CREATE_VIEW,
          Privilege.DROP,
          Privilege.SELECT,
          Privilege.INSERT,
          Privilege.DELETE);

  private static final long MOVING =
      PrivilegeSet.of(Privilege.ALTER, Privilege.DROP, Privilege.CREATE, Privilege.INSERT);

  private final Ability all;

  SightAbility(Ability all) {
    this.all = all;
  }

  @Override
  public Void guard(Guard step) {
    guarding();
    return null;
  }

  @Override
  public Void setAttribute(SetAttribute step) {
    guarding();
    return null;
  }

  @Override
  public Void defineLookup(DefineLookup step) {
    guarding();
    return null;
  }

  @Override
  public Void showSafely(ShowSafely step) {
    showing(step);
    return null;
  }

  @Override
  public Void filterRows(FilterRows step) {
    all.owning(step.table());
    return null;
  }

  @Override
  public Void moveTable(MoveTable step) {
    moving(step.aside() ? step.to() : step.from());
    return null;
  }

  private void showing(ShowSafely show) {
    guarding();
    On table = show.either().table();
    int node = Places.find(all.tree, table);
    int schema = node < 0 ? -1 : all.tree.enclosing(node, NodeKind.SCHEMA);
    if (schema >= 0 && all.byHost) {
      long making = PrivilegeSet.of(Privilege.CREATE_VIEW, Privilege.DROP, Privilege.SELECT);
      all.holding(making, schema, false, all.place(schema));
    } else if (schema >= 0) {
      all.holding(Privilege.CREATE.bit(), schema, false, all.place(schema));
      all.holding(Privilege.SELECT.bit(), node, false, all.place(node));
    }
  }

  /** A table that has its new name already, in the estate that is looked at. */
  private void moving(On table) {
    int node = Places.find(all.tree, table);
    int schema = node < 0 ? -1 : all.tree.enclosing(node, NodeKind.SCHEMA);
    if (schema >= 0 && all.byHost) {
      all.holding(MOVING, schema, false, all.place(schema));
    } else if (schema >= 0) {
      all.owning(table);
      all.holding(Privilege.CREATE.bit(), schema, false, all.place(schema));
    }
  }

  private void guarding() {
    int guard = all.schema("fiador_guard");
    if (all.byHost) {
      all.holding(GUARDING, Math.max(0, guard), false, "fiador_guard.*");
      all.holding(Privilege.SELECT.bit(), all.schema("mysql"), false, "mysql.*");
    }
  }
}
