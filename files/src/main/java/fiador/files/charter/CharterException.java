package fiador.files.charter;

import fiador.files.yaml.Mistakes.Mistake;
import fiador.refusal.Refusal;
import java.util.List;
import java.util.stream.Collectors;

/** A charter that cannot be used, with all its mistakes. */
public final class CharterException extends Refusal {
  private final transient List<Mistake> mistakes;

  CharterException(List<Mistake> mistakes) {
    super(mistakes.stream().map(Mistake::toString).collect(Collectors.joining("\n")));
    this.mistakes = mistakes;
  }

  /** All that is wrong. */
  public List<Mistake> mistakes() {
    return mistakes;
  }
}
