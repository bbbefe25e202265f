/**
 * House rules: how each kind of server works privileges out, as facts by name. Read {@link
 * fiador.grants.rules.HouseRules} (the record), {@link fiador.grants.rules.HouseFact} (what may be
 * so or not), then one server's file, such as {@link fiador.grants.rules.PostgresqlRules}; {@link
 * fiador.grants.rules.KnownHouses} finds the rules of a server.
 */
@org.jspecify.annotations.NullMarked
package fiador.grants.rules;
