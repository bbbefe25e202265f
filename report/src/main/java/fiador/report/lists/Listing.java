package fiador.report.lists;

import java.io.IOException;
import java.util.List;
import java.util.Map;

/** One list of things a survey holds. */
interface Listing {
  /** The fields a row may have, in their order. */
  List<String> fields();

  /** How many of the first fields are shown whatever they say. */
  default int telling() {
    return 3;
  }

  /** What one row is, and what several are. */
  Counted counted();

  /** What has to be known of the list; empty for nothing. */
  default String remark() {
    return "";
  }

  /** Gives each row. */
  void rows(Sink sink) throws IOException;

  /** Takes rows. */
  interface Sink {
    void row(Map<String, Object> row) throws IOException;
  }

  /** A thing and several of them. */
  record Counted(String one, String several) {
    String of(long count) {
      return count + " " + (count == 1 ? one : several);
    }
  }
}
