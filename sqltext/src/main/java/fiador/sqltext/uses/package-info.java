/**
 * What statements use, from their words: {@link fiador.sqltext.uses.StatementUses} is the way in,
 * {@link fiador.sqltext.uses.OneStatement} tells it of one, with {@link
 * fiador.sqltext.uses.NamedObjects} for what names mean.
 */
package fiador.sqltext.uses;
