/**
 * Trees of records as bytes, for what is kept between two runs of one build of the program.
 *
 * <p>No format to exchange: a record is written by the order of its components, and only a program
 * with the same classes reads it. What is kept says of which build it is and has a checksum. Only
 * records and enums of the program itself are ever made.
 */
@NullMarked
package fiador.files.records;

import org.jspecify.annotations.NullMarked;
