/**
 * Sentences that must hold about who can do something: {@link fiador.proofs.Proof}. {@link
 * fiador.proofs.Prover} finds out whether they do; where a sentence says "ever" or "never", {@link
 * fiador.proofs.Ahead} looks at what people could make themselves able to do, with {@link
 * fiador.proofs.OwnMeans} saying what each can do for it.
 */
package fiador.proofs;
