/** Commands of a review, from opening it to checking its evidence. */
package fiador.cli.review;
