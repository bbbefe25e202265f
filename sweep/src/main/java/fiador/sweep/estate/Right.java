package fiador.sweep.estate;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A row of {@code fiador holdings}, without whose it is.
 *
 * @param privilege what may be done
 * @param kind the kind of thing
 * @param object its dotted name
 * @param columns the only columns it is about; null for the whole
 * @param state whether it works
 * @param grantable whether it may be granted on
 * @param rows which rows come back; null for all of them, or where that is not known
 * @param masked the columns that are masked; null for none
 */
public record Right(
    String privilege,
    String kind,
    String object,
    @Nullable List<String> columns,
    String state,
    boolean grantable,
    @Nullable String rows,
    @Nullable List<String> masked) {

  /** What it is a right to. */
  public record What(
      String privilege, String kind, String object, @Nullable List<String> columns) {}

  /** What it is a right to, whatever its state. */
  public What what() {
    return new What(privilege, kind, object, columns);
  }
}
