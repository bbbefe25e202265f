/**
 * Predicates, masks and safe views as SQL; what is each server's own way is left to its subclass.
 */
package fiador.servers.policies;
