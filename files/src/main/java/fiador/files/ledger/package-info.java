/**
 * What was known of servers over time. A survey is cut into pieces that are kept once however many
 * surveys have them, so one that found nothing new costs a line; changes carried out stand beside
 * them, and reviews as chains of entries that nobody can alter unseen.
 */
package fiador.files.ledger;
