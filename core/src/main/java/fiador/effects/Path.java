package fiador.effects;

/**
 * One way from a user to a source.
 *
 * @param chain the user, then role after role; the last one has the source
 * @param switched where in the chain stands the role that has to be switched on, 0 if none has to
 * @param source what the last one of the chain has
 * @param state what this path alone would amount to
 */
public record Path(int[] chain, int switched, Source source, State state) {
  /** The principal that has the source. */
  public int last() {
    return chain[chain.length - 1];
  }
}
