/**
 * What views and routines show, worked out from their texts, for the servers whose catalogs do not
 * say: {@link fiador.sqltext.lineage.ViewColumns} follows each column of a view's query down to the
 * tables' columns; {@link fiador.sqltext.lineage.RoutineText} finds the tables that a routine's
 * body names. Where a text is beyond them they say so, and then everything that is read counts as
 * shown.
 */
package fiador.sqltext.lineage;
