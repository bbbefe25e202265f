/** Sheets of a review as they come back, from a program for tables or as plain text. */
package fiador.files.sheets;
