/**
 * The language in which row policies say which rows a user sees. {@link
 * fiador.predicates.PredicateReader} reads a text into an {@link fiador.predicates.Expression},
 * {@link fiador.predicates.Typing} finds its columns in a table and checks its types, {@link
 * fiador.predicates.Evaluation} works it out for one user and one row, {@link
 * fiador.predicates.Simplifier} shows what is left of it for one user, {@link
 * fiador.predicates.PredicateText} writes it again.
 */
package fiador.predicates;
