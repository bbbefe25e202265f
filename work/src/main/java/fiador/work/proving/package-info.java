/** Finds out whether a charter's proofs hold, on paper and on the server. */
package fiador.work.proving;
