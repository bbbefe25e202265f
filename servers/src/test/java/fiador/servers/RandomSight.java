package fiador.servers;

import fiador.estate.ColumnType;
import fiador.policies.ColumnMask;
import fiador.policies.Mask;
import fiador.policies.RowPolicy;
import fiador.policies.SafeColumn;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import fiador.predicates.PredicateException;
import fiador.predicates.PredicateReader;
import fiador.predicates.Typing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;

/** Random policies, masks and rows that are hard on comparisons, and users with attributes. */
final class RandomSight {
  static final List<String> ROLES = List.of("alpha", "beta", "gamma", "delta");
  private static final List<String> TEXTS =
      List.of(
          "",
          " ",
          "a",
          "A",
          "a ",
          " a",
          "ab",
          "north",
          "North",
          "north ",
          "ünï",
          "UNI",
          "ß",
          "ss",
          "😀",
          "a😀b",
          "😀😀",
          "it's",
          "x\\y",
          "100%",
          "a_b",
          "ab@c.example",
          "@",
          "a@b@c",
          "one\ntwo",
          "tab\there",
          "\"q\"",
          "|bar|",
          "日本",
          "e\u0301",
          "é",
          "*",
          "a.b",
          "$1");
  private static final List<String> NUMBERS =
      List.of("0", "1", "-1", "17", "9223372036854775807", "-9223372036854775808", "42");
  private static final List<String> DECIMALS =
      List.of("0", "1", "-0.0001", "12.5", "9999999999999999.9999", "-9999999999999999.9999", "17");
  private static final List<String> TRUTHS = List.of("true", "false");
  private static final List<String> DATES =
      List.of("0001-01-01", "9999-12-31", "2024-02-29", "1970-01-01", "1582-10-16", "2026-03-31");
  private static final List<String> TIMES =
      List.of(
          "0001-01-01 00:00:00",
          "9999-12-31 23:59:59.999999",
          "2024-02-29 12:34:56.123456",
          "1969-12-31 23:59:59.5",
          "2026-03-31 00:00:00");

  final Random random;
  final List<SafeColumn> columns;
  private final boolean ordersTexts;
  private final boolean digests;
  private final String odd;
  private boolean sessions;
  private List<String> texts = TEXTS;
  private boolean backslashes = true;

  /**
   * A source.
   *
   * @param booleans whether tables can have columns of truth values
   * @param ordersTexts whether texts have an order
   * @param digests whether there is a digest
   * @param quotes whether names of columns may hold quotes
   */
  RandomSight(
      Random random, boolean booleans, boolean ordersTexts, boolean digests, boolean quotes) {
    this.random = random;
    this.odd = quotes ? "Odd \"name\"" : "Odd name";
    this.ordersTexts = ordersTexts;
    this.digests = digests;
    List<SafeColumn> all =
        new ArrayList<>(
            List.of(
                new SafeColumn("id", ColumnType.INTEGER),
                new SafeColumn("words", ColumnType.TEXT),
                new SafeColumn(odd, ColumnType.TEXT),
                new SafeColumn("short", ColumnType.PADDED),
                new SafeColumn("many", ColumnType.INTEGER),
                new SafeColumn("amount", ColumnType.DECIMAL),
                new SafeColumn("day", ColumnType.DATE),
                new SafeColumn("moment", ColumnType.TIMESTAMP)));
    if (booleans) {
      all.add(new SafeColumn("active", ColumnType.BOOLEAN));
    }
    this.columns = List.copyOf(all);
  }

  /** With no text that has a backslash. */
  void noBackslashes() {
    backslashes = false;
    texts = TEXTS.stream().filter(text -> text.indexOf('\\') < 0).toList();
  }

  /** With predicates about the session, which the server has to tell. */
  void askSessions() {
    sessions = true;
  }

  private <T> T any(List<T> some) {
    return some.get(random.nextInt(some.size()));
  }

  private boolean chance(double share) {
    return random.nextDouble() < share;
  }

  Object[] row(int id) {
    Object[] row = new Object[columns.size()];
    for (int i = 0; i < row.length; i++) {
      row[i] = chance(0.15) ? null : value(columns.get(i).type());
    }
    row[0] = BigDecimal.valueOf(id);
    return row;
  }

  private Object value(ColumnType type) {
    return switch (type) {
      case TEXT -> any(texts);
      case PADDED -> any(texts).replaceFirst("^(.{0,3}).*$", "$1").strip().replace("\n", "");
      case INTEGER -> new BigDecimal(any(NUMBERS));
      case DECIMAL -> new BigDecimal(any(DECIMALS));
      case DATE -> LocalDate.parse(any(DATES));
      case TIMESTAMP -> LocalDateTime.parse(any(TIMES).replace(' ', 'T'));
      default -> random.nextBoolean();
    };
  }

  Map<String, List<String>> attributes() {
    Map<String, List<String>> found = new TreeMap<>();
    // in an order that is the same in every run
    Map<String, List<String>> pools =
        new TreeMap<>(
            Map.of(
                "words", TEXTS, "numbers", DECIMALS, "days", DATES, "times", TIMES, "flag",
                TRUTHS));
    pools.forEach(
        (name, pool) -> {
          List<String> values = new ArrayList<>();
          for (int n = random.nextInt(4); n > 0; n--) {
            String value = any(pool);
            if (!values.contains(value)) {
              values.add(value);
            }
          }
          if (!values.isEmpty()) {
            found.put(name, values);
          }
        });
    return found;
  }

  TableSight sight() {
    List<RowPolicy> rows = new ArrayList<>();
    for (int n = random.nextInt(4); n > 0; n--) {
      rows.add(
          new RowPolicy(
              "rule " + n,
              chance(0.6),
              applies(),
              chance(0.6) ? Expression.FALSE : applies(),
              typed(test(2))));
    }
    List<ColumnMask> masks = new ArrayList<>();
    for (SafeColumn column : columns.subList(1, columns.size())) {
      for (int n = chance(0.5) ? 1 + random.nextInt(2) : 0; n > 0; n--) {
        Expression clear = chance(0.3) ? typed(test(2)) : Expression.FALSE;
        masks.add(
            new ColumnMask("mask " + n, column.name(), applies(), clear, mask(column.type())));
      }
    }
    return new TableSight(rows, masks);
  }

  private Expression applies() {
    return typed(
        switch (random.nextInt(sessions ? 7 : 6)) {
          case 6 -> aboutSession().replace("coalesce(words, session.application)", "user.name");
          case 0 -> "true";
          case 1 -> "holds(" + any(ROLES) + ")";
          case 2 -> "(not holds(" + any(ROLES) + ")) is true";
          case 3 -> "user.words = " + text(any(texts));
          case 4 -> text(any(texts)) + " in user.words or holds(" + any(ROLES) + ")";
          default -> "user.name in ('u0', 'u1') or user.name = 'u2'";
        });
  }

  private Mask mask(ColumnType type) {
    List<String> masks =
        switch (type) {
          case TEXT, PADDED ->
              List.of(
                  "blank",
                  backslashes ? "fixed('it''s \\ 😀')" : "fixed('it''s 😀')",
                  "keep_first(0)",
                  "keep_first(2)",
                  "keep_last(1)",
                  "keep_last(3)",
                  "stars",
                  digests ? "digest" : "stars",
                  "domain_only");
          case INTEGER ->
              List.of("blank", "fixed('7')", "zero", "sign_only", "round_to(10)", "round_to(7)");
          case DECIMAL ->
              List.of(
                  "blank", "fixed('-7.25')", "zero", "sign_only", "round_to(10)", "round_to(7)");
          case DATE -> List.of("blank", "fixed('2000-01-01')", "year_only", "month_only");
          case TIMESTAMP ->
              List.of("blank", "fixed('2000-01-01 12:00:00')", "year_only", "month_only");
          default -> List.of("blank", "fixed('true')");
        };
    Mask mask = Mask.of(any(masks));
    if (!mask.fits(type)) {
      throw new IllegalStateException(mask + " does not fit " + type);
    }
    return mask;
  }

  private Expression typed(String predicate) {
    try {
      return Typing.typed(PredicateReader.read(predicate), SafeColumn.names(columns, Map.of()));
    } catch (PredicateException wrong) {
      throw new IllegalStateException(predicate + ": " + wrong.getMessage(), wrong);
    }
  }

  private static String text(String value) {
    return "'" + value.replace("'", "''") + "'";
  }

  private String test(int depth) {
    if (depth > 0 && chance(0.6)) {
      return switch (random.nextInt(4)) {
        case 0 -> "(" + test(depth - 1) + ") and (" + test(depth - 1) + ")";
        case 1 -> "(" + test(depth - 1) + ") or (" + test(depth - 1) + ")";
        case 2 -> "not (" + test(depth - 1) + ")";
        default -> "(" + test(depth - 1) + ") is true";
      };
    }
    if (sessions && chance(0.1)) {
      return aboutSession();
    }
    return switch (random.nextInt(columns.size() > 8 ? 9 : 7)) {
      case 6 -> aboutUser();
      case 7 -> any(List.of("active = user.flag", "active in user.flag", "active <> user.flag"));
      case 0, 1 -> aboutText();
      case 2 -> aboutNumber(any(List.of("many", "amount", "id")));
      case 3 -> aboutDate();
      case 4 -> aboutTime();
      case 5 -> any(List.of("words", "short", "many", "day", "amount")) + " is null";
      default -> any(List.of("active", "active = true", "active <> false", "not active"));
    };
  }

  private String aboutSession() {
    return any(
        List.of(
            "session.application = 'trial'",
            "session.application <> 'trial'",
            "session.application in user.words",
            "(session.application = 'other') is not true",
            "session.address like '127.%'",
            "session.address = '127.0.0.1'",
            "char_length(session.application) > 5",
            "coalesce(words, session.application) = session.application"));
  }

  private String aboutUser() {
    return any(
        List.of(
            "user.flag is not true",
            "user.flag",
            "not user.flag",
            "user.flag is true",
            "user.flag is null",
            "user.name || '-x' in user.words",
            "short || user.name in user.words",
            "user.name || words = short"));
  }

  private String aboutText() {
    String column =
        any(
            List.of(
                "words",
                "short",
                "\"" + odd.replace("\"", "\"\"") + "\"",
                "coalesce(words, short)",
                "(words || short)",
                "substring(words from 2 for 2)",
                "substring(short from 1 for 1)"));
    return switch (random.nextInt(ordersTexts ? 9 : 8)) {
      case 0 -> column + any(List.of(" = ", " <> ")) + text(any(texts));
      case 1 -> column + any(List.of(" in ", " not in ")) + "user.words";
      case 2 -> column + " in (" + text(any(texts)) + ", user.words, " + text(any(texts)) + ")";
      case 3 -> column + " = user.words";
      case 4 ->
          column
              + any(List.of(" like ", " not like "))
              + text(
                  any(
                      List.of(
                          "a%",
                          "_",
                          "%",
                          "%b",
                          "_b",
                          "%@%",
                          "a|_%",
                          backslashes ? "%\\%" : "%|%",
                          "N%",
                          "",
                          "%.%")));
      case 5 ->
          "char_length(" + column + ") " + any(List.of("=", ">", "<=")) + " " + random.nextInt(4);
      case 6 -> column + " = short";
      case 7 -> column + " <> user.name";
      default -> column + any(List.of(" < ", " >= ", " > ")) + text(any(texts));
    };
  }

  private String aboutNumber(String column) {
    String sign = any(List.of(" = ", " <> ", " < ", " <= ", " > ", " >= "));
    return switch (random.nextInt(7)) {
      case 0 -> column + sign + any(DECIMALS);
      case 6 -> column + " * many - " + column + sign + any(NUMBERS);
      case 1 -> column + any(List.of(" in ", " not in ")) + "user.numbers";
      case 2 -> column + " + many " + sign + any(NUMBERS);
      case 3 -> column + " * 2 - 1" + sign + "-" + any(List.of("1", "17", "99999"));
      case 4 -> column + any(List.of(" between ", " not between ")) + "-1 and " + any(DECIMALS);
      default -> column + sign + "user.numbers";
    };
  }

  private String aboutDate() {
    String sign = any(List.of(" = ", " <> ", " < ", " >= "));
    return switch (random.nextInt(4)) {
      case 0 -> "day" + sign + "date '" + any(DATES) + "'";
      case 1 -> "day in user.days";
      case 2 -> "extract(" + any(List.of("year", "month", "day")) + " from day)" + sign + "3";
      default -> "day" + sign + "user.days";
    };
  }

  private String aboutTime() {
    String sign = any(List.of(" = ", " <> ", " < ", " >= "));
    return switch (random.nextInt(3)) {
      case 0 -> "moment" + sign + "timestamp '" + any(TIMES) + "'";
      case 1 -> "moment not in user.times";
      default -> "extract(" + any(List.of("year", "month", "day")) + " from moment)" + sign + "12";
    };
  }
}
