/** The people and services an organisation knows, from its directory or a list. */
package fiador.files.identities;
