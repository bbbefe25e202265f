/**
 * Answers as drawings. A {@link fiador.report.pictures.Figure} says what is shown: boxes and lines.
 * {@code RoleFigure}, {@code UserFigure}, {@code ThingFigure} and {@code GapFigure} make one of an
 * estate; {@code Folding} puts what is alike together until it can be read; {@code Layout} gives
 * everything a place; {@code Painter} draws that once for all formats, which {@link
 * fiador.report.pictures.Picture} writes. {@code BoxTree} writes the same figure on a terminal. A
 * {@code Matrix} is a table and goes the same way without lines.
 */
@NullMarked
package fiador.report.pictures;

import org.jspecify.annotations.NullMarked;
