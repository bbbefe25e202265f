package fiador.sweep.tables;

import static fiador.sweep.tables.Field.flag;
import static fiador.sweep.tables.Field.number;
import static fiador.sweep.tables.Field.text;
import static fiador.sweep.tables.Field.texts;
import static fiador.sweep.tables.Field.time;

import java.util.List;
import java.util.Locale;

/**
 * The tables of a sweep. Each is a folder with a folder {@code server=NAME} for each server; new
 * columns come last, and none goes. All but the name of the server may be missing in a row.
 */
public enum Table {
  /** A row for each server; it is written last, so a server without one is being written. */
  SERVERS(
      text("server_name"),
      text("kind"),
      text("version"),
      time("surveyed"),
      time("swept"),
      text("survey_file"),
      text("survey_digest"),
      number("accounts"),
      number("roles"),
      number("objects"),
      number("grants"),
      number("holdings"),
      number("findings"),
      text("not_looked_into"),
      text("failed")),

  /** A row for each user; those with the same {@code alike} hold the same. */
  ACCOUNTS(
      text("account"),
      text("person"),
      text("person_name"),
      number("alike"),
      number("holdings"),
      text("cannot_log_in")),

  /** What those who are alike hold, by container: the same {@code span} is the same rights. */
  SPANS(number("alike"), text("container"), number("span"), number("holdings"), text("mark")),

  /** Which rights a span is made of. */
  CONTENTS(number("span"), number("right_id")),

  /** The rights there are: rows of {@code fiador holdings}, but for whose they are. */
  RIGHTS(
      number("right_id"),
      text("privilege"),
      text("kind"),
      text("object"),
      texts("column_names"),
      text("state"),
      flag("grantable"),
      text("rows_seen"),
      texts("masked_columns")),

  /** The rows of {@code fiador findings}. */
  FINDINGS(
      text("finding"),
      text("severity"),
      text("principal"),
      text("object"),
      text("what"),
      texts("users"),
      text("through"),
      text("remedy"),
      texts("statements"),
      text("waived"),
      text("waived_until")),

  /** What carries a label, and whether policies decide on it. */
  LABELS(text("label"), text("kind"), text("object"), text("column_name"), flag("under_policy")),

  /** Who reads tables of the server over another server, and as whom this one sees them. */
  ARRIVALS(
      text("kind"),
      text("object"),
      texts("column_names"),
      text("state"),
      text("rows_seen"),
      texts("masked_columns"),
      flag("certain"),
      text("login"),
      text("from_server"),
      text("account"),
      text("person"),
      text("person_name"),
      text("cannot_log_in"),
      texts("across")),

  /** What was opened, closed or altered from one survey to the next; it only grows. */
  CHANGES(
      time("surveyed"),
      time("surveyed_before"),
      text("change"),
      text("account"),
      text("person"),
      text("privilege"),
      text("kind"),
      text("object"),
      texts("column_names"),
      text("state"),
      text("state_before"));

  private final List<Field> fields;

  Table(Field... fields) {
    this.fields = List.of(fields);
  }

  /** Its columns, in order, without the server. */
  public List<Field> fields() {
    return fields;
  }

  /** What its folder is called. */
  public String folder() {
    return name().toLowerCase(Locale.ROOT);
  }
}
