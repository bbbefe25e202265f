package fiador.standin.estate;

import org.jspecify.annotations.Nullable;

/**
 * Another server, as it is known here.
 *
 * @param name what it is called here
 * @param host where it listens
 * @param port and on which port
 * @param database in which database of it tables are; null where it has none
 */
public record Place(String name, String host, int port, @Nullable String database) {}
