/** Finds out whether a charter's proofs hold, on paper and on the server. */
@org.jspecify.annotations.NullMarked
package fiador.work.proving;
