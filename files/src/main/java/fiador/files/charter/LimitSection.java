package fiador.files.charter;

import fiador.estate.AccountLimit;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** Reads what a server is to keep an account to. */
final class LimitSection extends Shapes {
  LimitSection(Mistakes mistakes) {
    super(mistakes);
  }

  /** All limits that are said; {@code encrypted: false} is none. */
  Map<AccountLimit, Integer> read(Yaml yaml) {
    Map<AccountLimit, Integer> found = new EnumMap<>(AccountLimit.class);
    Mapping body = mapping(yaml, "limits by name");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      AccountLimit limit = AccountLimit.named(entry.key().text());
      if (limit == null) {
        unknown(
            entry.key(),
            Arrays.stream(AccountLimit.values()).map(AccountLimit::text).toList(),
            "limit of an account");
      } else if (limit == AccountLimit.ENCRYPTED) {
        if (word(entry.value(), List.of("true", "false"), "yes or no").equals("true")) {
          found.put(limit, AccountLimit.BY_TLS);
        }
      } else {
        Scalar most = scalar(entry.value(), "a number");
        if (most != null && most.text().matches("[1-9]\\d{0,8}")) {
          found.put(limit, Integer.parseInt(most.text()));
        } else if (most != null) {
          mistakes.add(
              most.place(),
              "found \""
                  + most.text()
                  + "\", expected a whole number above 0; without the line there is no limit, and"
                  + " \"disabled: true\" lets nobody in");
        }
      }
    }
    return found;
  }
}
