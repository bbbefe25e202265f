/**
 * Reading SQL text. {@link fiador.sqltext.SqlReader} takes a text apart as one kind of server does,
 * into {@link fiador.sqltext.SqlToken}s; {@link fiador.sqltext.Inside} also reads the texts in a
 * text. All that is particular to a server comes from its house rules.
 */
package fiador.sqltext;
