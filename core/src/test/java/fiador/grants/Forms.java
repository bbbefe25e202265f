package fiador.grants;

import fiador.columns.Chars;
import fiador.columns.ColumnSource;
import fiador.columns.HeapColumns;
import fiador.columns.Ints;

/**
 * An estate in one of the forms it may have: as it was built, or taken up from columns that are
 * fetched piece by piece. Tests against real servers take one or the other, by the estate, so that
 * both are held to what servers do; {@code -Dfiador.form=built} or {@code =ready} makes it one of
 * them for all.
 */
public final class Forms {
  private Forms() {}

  /** The same estate in the form it is to have. */
  public static Access of(Access access) {
    int anything = access.grants().size() + access.tree().size() + access.memberships().size();
    String form = System.getProperty("fiador.form", anything % 2 == 0 ? "built" : "ready");
    return form.equals("built") ? access : ready(access);
  }

  /** The same estate, taken up from columns. */
  public static Access ready(Access access) {
    HeapColumns columns = new HeapColumns();
    AccessColumns.put(access, AccessColumns.Extents.of(access), columns);
    return AccessColumns.take(
        new ColumnSource() {
          @Override
          public Ints ints(String name) {
            Ints all = columns.ints(name);
            return Ints.fetched(
                all.size(),
                piece ->
                    all.copy(piece * Ints.PIECE, Math.min(all.size(), (piece + 1) * Ints.PIECE)));
          }

          @Override
          public Chars chars(String name) {
            Chars all = columns.chars(name);
            return Chars.fetched(
                all.size(),
                piece ->
                    all.text(piece * Chars.PIECE, Math.min(all.size(), (piece + 1) * Chars.PIECE)));
          }
        });
  }
}
