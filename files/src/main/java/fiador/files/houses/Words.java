package fiador.files.houses;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** What sheets call the values of enums: their names in lower case, with blanks. */
final class Words {
  private Words() {}

  static String of(Enum<?> value) {
    return value.name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }

  static List<String> all(Enum<?>[] values) {
    return Arrays.stream(values).map(Words::of).toList();
  }

  static <E extends Enum<E>> @Nullable E named(E[] values, String word) {
    return Arrays.stream(values).filter(value -> of(value).equals(word)).findFirst().orElse(null);
  }
}
