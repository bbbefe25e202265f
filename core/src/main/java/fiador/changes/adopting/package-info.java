/**
 * From a survey back to a charter. Read {@link fiador.changes.adopting.Adoption} first; {@link
 * fiador.changes.adopting.LeftOut} lists what no charter can say.
 */
package fiador.changes.adopting;
