package fiador.servers.policies;

import fiador.estate.ColumnType;
import fiador.policies.ColumnMask;
import fiador.policies.Mask;
import fiador.policies.MaskCases;
import fiador.predicates.Values;
import java.util.List;

/** Writes masks in one kind of server's SQL: to the byte what {@link Mask#of} makes of a value. */
public abstract class MaskSql extends PredicateSql {
  /** A writer; the parameter as for {@link PredicateSql}. */
  protected MaskSql(String qualifier) {
    super(qualifier);
  }

  /** The query for the names of the roles that who asks holds, compared exactly. */
  protected abstract String heldRoles();

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
  protected String whole(String number, ColumnType type) {
    return type == ColumnType.INTEGER ? number : "CAST(TRUNC(" + number + ", 0) AS DECIMAL(38,0))";
  }

  /** What is left over when a whole number is divided. */
  protected String remainder(String whole, int by) {
    return "MOD(" + whole + ", " + by + ")";
  }

  /**
   * The first day of a date's year or month, at midnight where it has a time.
   *
   * @param ofYear whether of the year, else of the month
   */
  protected String firstDay(String date, ColumnType type, boolean ofYear) {
    String year = "LPAD(CAST(EXTRACT(YEAR FROM " + date + ") AS VARCHAR(10)), 4, '0')";
    String month = "LPAD(CAST(EXTRACT(MONTH FROM " + date + ") AS VARCHAR(10)), 2, '0')";
    String day = year + " || '-' || " + (ofYear ? "'01'" : month) + " || '-01'";
    return type == ColumnType.DATE
        ? "CAST(" + day + " AS DATE)"
        : "CAST(" + day + " || ' 00:00:00' AS TIMESTAMP)";
  }

  /**
   * The keyed digest of a text.
   *
   * @throws IllegalArgumentException where the server has no function for it
   */
  protected abstract String digest(String text);

  /** What is left of a text from a place on. */
  protected String from(String text, String place) {
    return "SUBSTRING(" + text + " FROM " + place + ")";
  }

  /** A column as its masks show it; of several the first that acts counts. */
  public final String seen(List<ColumnMask> masks, String column, ColumnType type) {
    StringBuilder cases = new StringBuilder("CASE");
    for (ColumnMask mask : masks) {
      cases
          .append(" WHEN ")
          .append(predicate(mask.acts()))
          .append(" THEN ")
          .append(masked(mask.mask(), column, type));
    }
    return cases + " ELSE " + shown(column, type) + " END";
  }

  /** What a mask makes of a column. */
  public final String masked(Mask mask, String column, ColumnType type) {
    return mask.match(new Masked(column, type));
  }

  private final class Masked implements MaskCases<String> {
    private final String column;
    private final String shown;
    private final ColumnType type;

    Masked(String column, ColumnType type) {
      this.column = column;
      this.shown = shown(column, type);
      this.type = type;
    }

    private String unlessNull(String value) {
      return "CASE WHEN " + column + " IS NULL THEN NULL ELSE " + value + " END";
    }

    @Override
    public String blank(Mask.Blank mask) {
      return "NULL";
    }

    @Override
    public String fixed(Mask.Fixed mask) {
      String value = mask.value();
      return unlessNull(
          switch (type) {
            case TEXT, PADDED -> literal(value);
            case DATE, TIMESTAMP -> dated(Values.text(Values.of(value, type)), type);
            default -> Values.text(Values.of(value, type));
          });
    }

    @Override
    public String keepFirst(Mask.KeepFirst mask) {
      int count = mask.count();
      return kept(shown, count, joined(first(shown, count), rest(shown, count, true)));
    }

    @Override
    public String keepLast(Mask.KeepLast mask) {
      int count = mask.count();
      return kept(shown, count, joined(rest(shown, count, false), last(shown, count)));
    }

    @Override
    public String stars(Mask.Stars mask) {
      return unlessNull(literal(Mask.STARS));
    }

    @Override
    public String digest(Mask.Digest mask) {
      return MaskSql.this.digest(shown);
    }

    @Override
    public String domainOnly(Mask.DomainOnly mask) {
      String at = positionOfAt(shown);
      String domain = from(shown, at);
      String stars = literal(Mask.STARS);
      return "CASE WHEN "
          + column
          + " IS NULL THEN NULL WHEN "
          + at
          + " = 0 THEN "
          + stars
          + " ELSE "
          + joined(stars, domain)
          + " END";
    }

    @Override
    public String zero(Mask.Zero mask) {
      return unlessNull("0");
    }

    @Override
    public String signOnly(Mask.SignOnly mask) {
      return "CASE WHEN "
          + column
          + " > 0 THEN 1 WHEN "
          + column
          + " < 0 THEN -1 WHEN "
          + column
          + " = 0 THEN 0 END";
    }

    @Override
    public String roundTo(Mask.RoundTo mask) {
      String whole = whole(column, type);
      return whole + " - " + remainder(whole, mask.multiple());
    }

    @Override
    public String yearOnly(Mask.YearOnly mask) {
      return firstDay(shown, type, true);
    }

    @Override
    public String monthOnly(Mask.MonthOnly mask) {
      return firstDay(shown, type, false);
    }
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
