package fiador.work.sweeping;

import java.util.List;

/**
 * What came of a sweep.
 *
 * @param worked how many servers were worked out
 * @param kept how many had not changed
 * @param gone servers whose surveys are there no more
 * @param failed surveys that could not be used
 * @param accounts the accounts of those worked out
 * @param holdings all that they hold
 * @param findings what was found there
 */
public record Outcome(
    long worked,
    long kept,
    List<String> gone,
    List<Failed> failed,
    long accounts,
    long holdings,
    long findings) {

  /**
   * A survey that could not be used.
   *
   * @param server the server
   * @param file where the survey is
   * @param why what is the matter
   */
  public record Failed(String server, String file, String why) {}
}
