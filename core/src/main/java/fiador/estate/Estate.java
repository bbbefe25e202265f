package fiador.estate;

/**
 * The things and the people of one server, immutable.
 *
 * @param names every text, interned
 * @param tree what privileges are on
 * @param principals who may hold them
 */
public record Estate(Names names, Tree tree, Principals principals) {}
