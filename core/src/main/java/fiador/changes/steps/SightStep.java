package fiador.changes.steps;

/** A step about rows and columns; it changes no grant. */
public sealed interface SightStep extends Step
    permits Guard, SetAttribute, DefineLookup, ShowSafely, FilterRows, MoveTable {

  /** Does what is to be done with this kind of step. */
  <T> T matchSight(SightCases<T> cases);
}
