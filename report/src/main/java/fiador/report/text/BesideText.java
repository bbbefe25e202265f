package fiador.report.text;

import fiador.grants.Access;
import fiador.grants.Seen.Beside;
import java.util.List;
import java.util.stream.Collectors;

/** What somebody has that grants on things of the tree cannot say. */
public final class BesideText {
  private final Access access;

  /** Of that survey. */
  public BesideText(Access access) {
    this.access = access;
  }

  /** One paragraph; empty where there is nothing. */
  public String of(int principal, int width) {
    List<Beside> beside = access.seen().of(principal);
    if (beside.isEmpty()) {
      return "";
    }
    Columns lines = new Columns(width);
    String said = beside.stream().map(Beside::text).collect(Collectors.joining(", "));
    lines.line("beside:", said);
    return "\n" + lines.text();
  }
}
