package fiador.changes.steps;

import fiador.estate.NodeKind;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A name: the database where the server has such a level, else null; then schema and object.
 *
 * @param procedure whether it is a routine that is called, where the server tells these apart
 */
public record On(NodeKind kind, @Nullable String database, List<String> parts, boolean procedure) {
  /** Anything but such a routine. */
  public On(NodeKind kind, @Nullable String database, List<String> parts) {
    this(kind, database, parts, false);
  }
}
