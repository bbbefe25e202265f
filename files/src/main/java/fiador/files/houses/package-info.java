/**
 * House sheets as files: {@link fiador.files.houses.HouseSheets} finds a sheet by its name, {@link
 * fiador.files.houses.HouseSheetReader} reads one and names all its mistakes at once, {@link
 * fiador.files.houses.RulesReader} and {@link fiador.files.houses.RulesWriter} read and write the
 * house rules in it, which surveys carry too.
 */
@NullMarked
package fiador.files.houses;

import org.jspecify.annotations.NullMarked;
