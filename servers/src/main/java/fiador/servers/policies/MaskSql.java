package fiador.servers.policies;

import fiador.estate.ColumnType;
import fiador.policies.Mask;
import fiador.predicates.Values;

/** Writes masks in one kind of server's SQL: to the byte what {@link Mask#of} makes of a value. */
public abstract class MaskSql extends PredicateSql {
  /** A writer; the parameter as for {@link PredicateSql}. */
  protected MaskSql(String qualifier) {
    super(qualifier);
  }

  /** A column as a safe view shows it, where no mask acts. */
  protected String shown(String column, ColumnType type) {
    return column;
  }

  /** As many stars as a number says. */
  protected String stars(String count) {
    return "REPEAT('*', " + count + ")";
  }

  /** The first characters of a text that has that many. */
  protected String first(String text, int count) {
    return "LEFT(" + text + ", " + count + ")";
  }

  /** The last characters of a text that has that many. */
  protected String last(String text, int count) {
    return "RIGHT(" + text + ", " + count + ")";
  }

  /** A star for each character of a text. */
  protected String starred(String text) {
    return stars(length(text));
  }

  /** Where the first at sign stands in a text, 0 for nowhere. */
  protected String positionOfAt(String text) {
    return "POSITION('@' IN " + text + ")";
  }

  /** A number without its decimals. */
  protected abstract String whole(String number, ColumnType type);

  /** What is left over when a whole number is divided. */
  protected String remainder(String whole, int by) {
    return "MOD(" + whole + ", " + by + ")";
  }

  /**
   * The first day of a date's year or month, at midnight where it has a time.
   *
   * @param ofYear whether of the year, else of the month
   */
  protected abstract String firstDay(String date, ColumnType type, boolean ofYear);

  /**
   * The keyed digest of a text.
   *
   * @throws IllegalArgumentException where the server has no function for it
   */
  protected abstract String digest(String text);

  /** What a mask makes of a column. */
  public final String masked(Mask mask, String column, ColumnType type) {
    String shown = shown(column, type);
    if (mask instanceof Mask.Blank) {
      return "NULL";
    } else if (mask instanceof Mask.KeepFirst keep) {
      return kept(
          shown, keep.count(), joined(first(shown, keep.count()), rest(shown, keep.count(), true)));
    } else if (mask instanceof Mask.KeepLast keep) {
      return kept(
          shown, keep.count(), joined(rest(shown, keep.count(), false), last(shown, keep.count())));
    } else if (mask instanceof Mask.RoundTo round) {
      String whole = whole(column, type);
      return whole + " - " + remainder(whole, round.multiple());
    } else if (mask instanceof Mask.YearOnly) {
      return firstDay(shown, type, true);
    } else if (mask instanceof Mask.MonthOnly) {
      return firstDay(shown, type, false);
    } else if (mask instanceof Mask.Digest) {
      return digest(shown);
    }
    return "CASE WHEN " + column + " IS NULL THEN NULL " + constant(mask, shown, type) + " END";
  }

  private String constant(Mask mask, String shown, ColumnType type) {
    if (mask instanceof Mask.DomainOnly) {
      String at = positionOfAt(shown);
      String domain = "SUBSTRING(" + shown + " FROM " + at + ")";
      return "WHEN "
          + at
          + " = 0 THEN "
          + literal(Mask.STARS)
          + " ELSE "
          + joined(literal(Mask.STARS), domain);
    } else if (mask instanceof Mask.Stars) {
      return "ELSE " + literal(Mask.STARS);
    } else if (mask instanceof Mask.Zero) {
      return "ELSE 0";
    }
    String value = ((Mask.Fixed) mask).value();
    return "ELSE "
        + switch (type) {
          case TEXT, PADDED -> literal(value);
          case DATE, TIMESTAMP -> dated(Values.text(Values.of(value, type)), type);
          default -> Values.text(Values.of(value, type));
        };
  }

  private String kept(String text, int count, String some) {
    return "CASE WHEN "
        + length(text)
        + " <= "
        + count
        + " THEN "
        + starred(text)
        + " ELSE "
        + some
        + " END";
  }

  /** Stars for what is not kept. */
  protected String rest(String text, int kept, boolean first) {
    return stars(length(text) + " - " + kept);
  }
}
