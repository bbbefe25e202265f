/**
 * Who was given what: memberships, grants, denials, and the house rules that say how a kind of
 * server combines them.
 *
 * <p>{@link fiador.grants.rules.HouseRules} is data and the only place that knows how servers
 * differ; {@link fiador.grants.Memberships} and {@link fiador.grants.Grants} are compressed
 * adjacency arrays that can be walked from either end; {@link fiador.grants.Access} holds all of it
 * together and is what the effects room computes on. {@link fiador.grants.Reads} and {@link
 * fiador.grants.Lineage} say what lies under views and what they show of it, {@link
 * fiador.grants.Sights} what a server keeps that decides on rows and columns.
 */
package fiador.grants;
