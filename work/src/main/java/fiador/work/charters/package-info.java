/**
 * Charters, their servers, surveys and ledgers, by what the user typed. {@link
 * fiador.work.charters.Choosing} finds what a question is answered from; {@link
 * fiador.work.charters.Surveys} takes surveys and knows where they are kept.
 */
@org.jspecify.annotations.NullMarked
package fiador.work.charters;
