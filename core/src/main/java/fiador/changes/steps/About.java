package fiador.changes.steps;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a step is about.
 *
 * @param turn what it does
 * @param principals the users and roles that have to be there
 * @param on the thing that has to be there; null for none
 * @param columns the columns of it that have to be there
 * @param database the database it has to be carried out in; null for anywhere on the server
 * @param holder whose roles or grants it changes; null where it changes nobody's
 * @param role the role that is given or taken; null for none
 * @param grantor who alone can take what is taken; null where it does not matter
 */
public record About(
    Turn turn,
    List<String> principals,
    @Nullable On on,
    List<String> columns,
    @Nullable String database,
    @Nullable String holder,
    @Nullable String role,
    @Nullable String grantor) {

  /** About accounts and roles themselves, wherever on the server. */
  static About account(Turn turn, String... principals) {
    return new About(turn, List.of(principals), null, List.of(), null, null, null, null);
  }

  /**
   * About a membership.
   *
   * @param role null where no role is named
   * @param grantor null where it does not matter who gives or gave it
   */
  static About role(Turn turn, @Nullable String role, String member, @Nullable String grantor) {
    return new About(
        turn, named(role, member, grantor), null, List.of(), null, member, role, grantor);
  }

  /** About a grant; grantor as for memberships. */
  static About grant(
      Turn turn, On on, List<String> columns, String grantee, @Nullable String grantor) {
    List<String> named = named(grantee, grantor);
    return new About(turn, named, on, columns, on.database(), grantee, null, grantor);
  }

  /** About a thing. */
  static About thing(Turn turn, On on, String... principals) {
    return new About(turn, List.of(principals), on, List.of(), on.database(), null, null, null);
  }

  /** About what a database as a whole has. */
  static About database(Turn turn, @Nullable String database) {
    return new About(turn, List.of(), null, List.of(), database, null, null, null);
  }

  /** The same in another database. */
  About inDatabase(@Nullable String other) {
    return new About(turn, principals, on, columns, other, holder, role, grantor);
  }

  /** The same, done another way. */
  About in(Turn other) {
    return new About(other, principals, on, columns, database, holder, role, grantor);
  }

  /** What somebody holds more or less of: the role, or the thing; null for none. */
  public @Nullable Object held() {
    return role == null ? on : role;
  }

  private static List<String> named(@Nullable String... names) {
    return java.util.stream.Stream.of(names).filter(java.util.Objects::nonNull).toList();
  }
}
