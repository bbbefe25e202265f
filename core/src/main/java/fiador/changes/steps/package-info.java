/**
 * The single things that can be done on a server. Read {@link fiador.changes.steps.Step} first:
 * each step knows its inverse. {@link fiador.changes.steps.Places} finds the node a step is about,
 * {@link fiador.changes.steps.Ability} says what a login lacks for some steps.
 */
package fiador.changes.steps;
