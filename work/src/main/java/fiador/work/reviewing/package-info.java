/** Closes a review: what has to be revoked, and the evidence of it. */
@org.jspecify.annotations.NullMarked
package fiador.work.reviewing;
