package fiador.report.rows;

import java.util.Locale;

/** The formats lists are written in. */
public enum Format {
  TEXT,
  JSON,
  JSONL,
  CSV,
  MARKDOWN;

  @Override
  public String toString() {
    return name().toLowerCase(Locale.ROOT);
  }
}
