/**
 * Reviews in which the owners of data confirm who keeps access. {@link fiador.reviews.Drafting}
 * makes the lines out of a survey, {@link fiador.reviews.Reviewers} says who is asked; {@link
 * fiador.reviews.Review} is what was asked and answered so far, {@link fiador.reviews.Returned}
 * checks what comes back on sheets, {@link fiador.reviews.Freshness} whether the facts are still
 * so, and {@link fiador.reviews.Revocations} what has to be taken away in the end. Lines name
 * people and things by their names, so that they outlive the survey they came from.
 */
package fiador.reviews;
