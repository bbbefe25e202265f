/**
 * Servers that no code knows: {@link fiador.servers.sheet.SheetServer} reads one as its house sheet
 * says, {@link fiador.servers.sheet.SheetDialect} writes its statements, {@link
 * fiador.servers.sheet.SheetDrivers} finds the driver.
 */
@NullMarked
package fiador.servers.sheet;

import org.jspecify.annotations.NullMarked;
