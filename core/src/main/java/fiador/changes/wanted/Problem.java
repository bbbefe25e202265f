package fiador.changes.wanted;

/**
 * Something wrong with what is wanted.
 *
 * @param place where in the charter, or null for the whole of it
 * @param message what is wrong
 */
public record Problem(Wanted.Place place, String message) {
  @Override
  public String toString() {
    return place == null ? message : place + ": " + message;
  }
}
