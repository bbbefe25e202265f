package fiador.files.usage;

import java.time.Instant;

/**
 * One statement of a log.
 *
 * @param at when
 * @param user who was logged in, as the log has it
 * @param host from where, or null
 * @param database in which database, or on MariaDB schema; or null
 * @param statement what was sent
 */
record Entry(Instant at, String user, String host, String database, String statement) {}
