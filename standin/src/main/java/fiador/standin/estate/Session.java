package fiador.standin.estate;

import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Somebody at work.
 *
 * @param user who logged in
 * @param acting whose name stands for what they make: the user, or the role they have on
 * @param login who counted at login: the user, everybody, and the roles that were on
 * @param on who counts now
 * @param chosen the roles that were switched on, none of them or some; null where nobody switched
 */
public record Session(
    Principal user,
    Principal acting,
    Set<Principal> login,
    Set<Principal> on,
    @Nullable List<Principal> chosen) {}
