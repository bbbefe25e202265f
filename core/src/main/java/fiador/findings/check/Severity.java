package fiador.findings.check;

import java.util.Locale;

/** How bad a finding is, the worst first. */
public enum Severity {
  HIGH,
  MEDIUM,
  LOW;

  /** The name in lower case. */
  public String text() {
    return name().toLowerCase(Locale.ROOT);
  }
}
