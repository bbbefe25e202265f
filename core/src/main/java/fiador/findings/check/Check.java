package fiador.findings.check;

import java.util.function.Consumer;

/** Looks for one kind of trouble. One class per kind, with what it asks beside the code. */
public interface Check {
  /** What it asks. */
  Asked asked();

  /** Tells what it finds, in the order of ids. */
  void look(Facts facts, Consumer<Finding> found);
}
