package fiador.standin.estate;

/**
 * What things still to be made come with.
 *
 * @param to who gets it
 * @param privilege what
 * @param kind on which kind of thing
 * @param in where they are made
 */
public record Later(Principal to, String privilege, String kind, Thing in) {}
