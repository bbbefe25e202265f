/**
 * Files that were exported from a server's catalog, read as a house sheet says: {@link
 * fiador.files.extracts.Extracts} makes an estate of a folder of them.
 */
@NullMarked
package fiador.files.extracts;

import org.jspecify.annotations.NullMarked;
