/**
 * Reviews of an estate: what is wrong with it ({@link fiador.reviews.Findings}, one class per
 * {@link fiador.reviews.Check check}), what somebody could come to hold by own means ({@link
 * fiador.reviews.Climb}), and how a privilege is taken away with the least damage ({@link
 * fiador.reviews.Sever}). Everything here only reads; what should be done comes out as steps of
 * {@code changes}.
 */
package fiador.reviews;
