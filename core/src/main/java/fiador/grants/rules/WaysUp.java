package fiador.grants.rules;

import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * How somebody who is no administrator can become one on a server, besides being given a role.
 *
 * @param rolesThatLeaveTheServer roles whose members reach the server's own files and programs, and
 *     so everything it guards
 * @param setsAnySecret privileges on the whole server with which one can set any account's secret
 * @param makesInAnyName privileges on the whole server with which one can make routines that act as
 *     any account
 * @param roleThatTakesAnyPlace the role whose members can go on as any user who is no superuser,
 *     without a secret; or null
 * @param accountsSchema the schema in whose tables the server keeps accounts, so that writing there
 *     makes them; or null
 */
public record WaysUp(
    Set<String> rolesThatLeaveTheServer,
    long setsAnySecret,
    long makesInAnyName,
    @Nullable String roleThatTakesAnyPlace,
    @Nullable String accountsSchema) {
  /** None. */
  public static final WaysUp NONE = new WaysUp(Set.of(), 0, 0, null, null);
}
