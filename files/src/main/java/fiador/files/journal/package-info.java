/**
 * The journal of a change: written ahead, so that after a stop half-way it can be gone on with or
 * taken back. One JSON object per line: the head, every step, then what was begun and done.
 */
package fiador.files.journal;
