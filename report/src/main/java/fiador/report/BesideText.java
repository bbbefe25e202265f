package fiador.report;

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
    lines.line("beside:", said(beside));
    return "\n" + lines.text();
  }

  /** What several things are to somebody, such as "owns type a.b, may language c". */
  public static String said(List<Beside> beside) {
    return beside.stream().map(BesideText::said).collect(Collectors.joining(", "));
  }

  private static String said(Beside one) {
    return switch (one.tie()) {
      case OWNS -> "owns " + one.what();
      case MAY -> "has rights on " + one.what();
      case NAMED -> "is named by " + one.what();
    };
  }
}
