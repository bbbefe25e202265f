/** What is read from and written to disk. */
package fiador.files;
