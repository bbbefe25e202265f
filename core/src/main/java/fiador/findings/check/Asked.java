package fiador.findings.check;

/**
 * What a check asks.
 *
 * @param id its name in charters and machine formats; never changes
 * @param severity how bad it is when it is found
 * @param question the question it answers, as an administrator would ask it
 * @param remedy what to do about it
 */
public record Asked(String id, Severity severity, String question, String remedy) {}
