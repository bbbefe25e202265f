package fiador.standin.keeping;

import com.fasterxml.jackson.annotation.JsonInclude;
import fiador.standin.deeds.Kept;

/**
 * One line of the journal.
 *
 * @param at when, in ISO-8601
 * @param user who logged in
 * @param as whose name stood for what was made
 * @param deed the statement, with no secret in it
 * @param kept what it made that its text does not say
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record Entry(String at, String user, String as, String deed, Kept kept) {}
