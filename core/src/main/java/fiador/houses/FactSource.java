package fiador.houses;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Where one sort of fact is found, and what is what in its rows.
 *
 * @param sort the sort
 * @param query what the server is asked; null where it is only found in files
 * @param extract which files hold it, by name, with {@code *} for any characters; null where it is
 *     only asked for
 * @param only columns with the values of which one must stand there, or the row does not count
 * @param fields what each field of the fact is made of
 * @param skipsUnknown whether a row about somebody or something that is not there is left out and
 *     counted; else it is a mistake
 * @param optional whether it is only noted when the server cannot answer
 */
public record FactSource(
    FactSort sort,
    @Nullable String query,
    @Nullable String extract,
    Map<String, List<String>> only,
    Map<String, FieldValue> fields,
    boolean skipsUnknown,
    boolean optional) {}
