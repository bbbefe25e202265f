package fiador.changes.wanted;

import fiador.estate.ColumnType;
import fiador.policies.Mask;
import java.util.List;
import java.util.Map;

/** Which of a policy's masks is for a column. */
public final class MaskChoice {
  /** The kinds of columns a policy tells apart. */
  public static final List<String> KINDS =
      List.of("text", "number", "date", "boolean", "otherwise");

  private MaskChoice() {}

  /** The mask for a type; null when the policy says nothing for it. */
  public static Mask of(Map<String, Mask> byKind, ColumnType type) {
    return byKind.getOrDefault(kind(type), byKind.get("otherwise"));
  }

  /** Which kind a type is of. */
  public static String kind(ColumnType type) {
    return switch (type) {
      case TEXT, PADDED -> "text";
      case INTEGER, DECIMAL -> "number";
      case DATE, TIMESTAMP -> "date";
      case BOOLEAN -> "boolean";
      default -> "otherwise";
    };
  }
}
