/**
 * What a statement needs before a server runs it: {@link fiador.sqltext.needs.StatementNeeds}. It
 * reads the statement as the server does, with every name in its place; where it cannot, it says so
 * and claims nothing.
 */
package fiador.sqltext.needs;
