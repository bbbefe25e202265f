/** Closes a review: what has to be revoked, and the evidence of it. */
package fiador.work.reviewing;
