package fiador.policies;

import fiador.estate.Nearest;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Reads masks as charters write them. */
final class MaskReader {
  private static final Pattern SHAPE =
      Pattern.compile("(?<name>\\w+)(?:\\((?:(?<number>\\d{1,9})|'(?<text>(?:[^']|'')*)')\\))?");
  private static final List<String> NAMES =
      List.of(
          "blank",
          "fixed('...')",
          "keep_first(n)",
          "keep_last(n)",
          "stars",
          "digest",
          "domain_only",
          "zero",
          "sign_only",
          "round_to(n)",
          "year_only",
          "month_only");

  private static final int LONGEST = 1_000;

  private MaskReader() {}

  static Mask read(String text) {
    if (text.length() > LONGEST) {
      throw new IllegalArgumentException("a mask is longer than " + LONGEST + " characters");
    }
    Matcher shape = SHAPE.matcher(text.strip());
    Mask mask = shape.matches() ? of(shape) : null;
    if (mask == null) {
      String name = text.strip().replaceFirst("\\(.*", "");
      for (String known : NAMES) {
        if (known.startsWith(name + "(") || known.equals(name)) {
          throw new IllegalArgumentException("\"" + text + "\" is to be written " + known);
        }
      }
      String hint =
          Nearest.hint(name, NAMES.stream().map(known -> known.replaceFirst("\\(.*", "")));
      throw new IllegalArgumentException(
          "there is no mask \"" + text + "\"" + hint + "; there are " + String.join(", ", NAMES));
    }
    return mask;
  }

  private static Mask of(Matcher shape) {
    String name = shape.group("name");
    String text = shape.group("text");
    if (text != null) {
      return name.equals("fixed") ? new Mask.Fixed(text.replace("''", "'")) : null;
    } else if (shape.group("number") != null) {
      int number = Integer.parseInt(shape.group("number"));
      return switch (name) {
        case "keep_first" -> new Mask.KeepFirst(number);
        case "keep_last" -> new Mask.KeepLast(number);
        case "round_to" -> number == 0 ? null : new Mask.RoundTo(number);
        default -> null;
      };
    }
    return switch (name) {
      case "blank" -> new Mask.Blank();
      case "stars" -> new Mask.Stars();
      case "digest" -> new Mask.Digest();
      case "domain_only" -> new Mask.DomainOnly();
      case "zero" -> new Mask.Zero();
      case "sign_only" -> new Mask.SignOnly();
      case "year_only" -> new Mask.YearOnly();
      case "month_only" -> new Mask.MonthOnly();
      default -> null;
    };
  }
}
