package fiador.servers.jdbc;

/** Something was not read, because what others made would have run. */
public final class HiddenCodeException extends ServerException {
  private static final long serialVersionUID = 1L;

  /**
   * @param path what was not read
   * @param code what would have run
   */
  public HiddenCodeException(String path, String code) {
    super(path + " was not read, because that is not harmless: " + code, null);
  }
}
