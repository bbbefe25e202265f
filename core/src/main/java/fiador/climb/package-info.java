/**
 * What somebody could come to hold by their own means: {@link fiador.climb.Climb}, a search over
 * what each rung lets them do next.
 */
package fiador.climb;
