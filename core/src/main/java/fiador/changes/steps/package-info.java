/**
 * The single things that can be done on a server. Read {@link fiador.changes.steps.Step} first:
 * each step knows its inverse and says what it is {@link fiador.changes.steps.About}. Whoever
 * treats each kind its own way implements {@link fiador.changes.steps.StepCases} and, for rows and
 * columns, {@link fiador.changes.steps.SightCases}. {@link fiador.changes.steps.Places} finds the
 * node a step is about, {@link fiador.changes.steps.Ability} says what a login lacks for some
 * steps.
 */
@org.jspecify.annotations.NullMarked
package fiador.changes.steps;
