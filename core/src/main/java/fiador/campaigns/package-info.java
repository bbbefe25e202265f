/**
 * Reviews in which the owners of data confirm who keeps access. {@link fiador.campaigns.Drafting}
 * makes the lines out of a survey, {@link fiador.campaigns.Reviewers} says who is asked; {@link
 * fiador.campaigns.Review} is what was asked and answered so far, {@link fiador.campaigns.Returned}
 * checks what comes back on sheets, {@link fiador.campaigns.Freshness} whether the facts are still
 * so, and {@link fiador.campaigns.Revocations} what has to be taken away in the end. Lines name
 * people and things by their names, so that they outlive the survey they came from.
 */
package fiador.campaigns;
