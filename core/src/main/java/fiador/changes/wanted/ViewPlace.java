package fiador.changes.wanted;

/** Where the view stands that shows a table as its policies say. */
public enum ViewPlace {
  /** Nothing is said: as another policy on the table says, else beside it. */
  UNSAID,
  /** Under a name of its own; the table keeps its name. */
  BESIDE,
  /** Under the table's name; the table stands aside. */
  UNDER_NAME
}
