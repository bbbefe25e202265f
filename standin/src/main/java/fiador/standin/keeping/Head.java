package fiador.standin.keeping;

/**
 * The first line of the journal.
 *
 * @param standIn the version of the format
 * @param administrator the name of the first user
 * @param secret what that one's secret is checked against
 * @param engine the secret of the engine that keeps the rows
 */
public record Head(int standIn, String administrator, String secret, String engine) {}
