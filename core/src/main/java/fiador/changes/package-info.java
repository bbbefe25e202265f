/**
 * From what is wanted to what has to be done: {@link fiador.changes.Wanted} is a charter's demands,
 * {@link fiador.changes.Planner} compares them with what a server has and gives {@link
 * fiador.changes.Step}s in an order that can be carried out.
 */
package fiador.changes;
