package fiador.sweep.estate;

import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What a sweep keeps, or kept, of the accounts of a server. */
public interface Before {
  /** When the survey of it was taken. */
  Instant surveyed();

  /** The accounts there are. */
  Set<String> accounts();

  /** Their marks, by container; none for an account that is not there. */
  Map<String, Set<String>> marks(String account);

  /**
   * The rights behind marks. Cost: reading all rights of the server once; memory: those asked for.
   */
  Map<String, List<Right>> rights(Set<String> marks) throws IOException;
}
