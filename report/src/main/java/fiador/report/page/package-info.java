/**
 * One page to explore an estate with, in a file of its own: {@link fiador.report.page.EstatePage}.
 * {@link fiador.report.page.Scope} says what goes into it, {@code PageData} packs that, and the
 * script beside the classes shows it; it works nothing out but ways through roles, which it has all
 * of.
 */
@NullMarked
package fiador.report.page;

import org.jspecify.annotations.NullMarked;
