/**
 * What differs between two surveys of one server. Ids mean nothing from one survey to the next, so
 * {@code Alike} first finds which user and which object is which; {@link
 * fiador.history.FactDifference} then compares what is there, {@link
 * fiador.history.HoldingDifference} what it comes to for people.
 */
package fiador.history;
