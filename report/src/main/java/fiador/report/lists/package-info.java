/**
 * What a survey holds, as it stands there: one class a list. {@link fiador.report.lists.Lists}
 * knows them by name; each is a {@link fiador.report.lists.Listing}, which {@link
 * fiador.report.lists.ListText} writes for people.
 */
package fiador.report.lists;
