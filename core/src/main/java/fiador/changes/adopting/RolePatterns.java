package fiador.changes.adopting;

import fiador.changes.adopting.Adoption.Entry;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;

/**
 * Finds roles that are alike but for the schema they are named after: these become one pattern. A
 * role is left alone where putting the schema back would not give just the same. Cost: the roles
 * times the schemas.
 *
 * @param patterns the patterns
 * @param others the roles that follow none
 */
public record RolePatterns(List<Pattern> patterns, List<Entry> others) {
  private static final String VARIABLE = "{schema}";
  private static final String VARIABLE_TEXT = Matcher.quoteReplacement(VARIABLE);

  /** So many roles are worth a pattern. */
  private static final int WORTH_IT = 2;

  /**
   * A pattern.
   *
   * @param schemas the values of its variable
   * @param role a role, with the variable wherever the schema stood
   */
  public record Pattern(List<String> schemas, Entry role) {}

  static RolePatterns of(List<Entry> roles, Collection<String> schemas) {
    Map<Entry, Map<String, Entry>> alike = new LinkedHashMap<>();
    for (String schema : schemas) {
      for (Entry role : canBeSaid(schema) ? roles : List.<Entry>of()) {
        Entry general = general(role, schema);
        boolean fits =
            general.name().contains(VARIABLE)
                && !role.name().startsWith("\"")
                && !role.disabled()
                && !(role.name() + role.held() + role.may()).contains("{")
                && filled(general, schema).equals(role);
        if (fits) {
          alike.computeIfAbsent(general, none -> new LinkedHashMap<>()).put(schema, role);
        }
      }
    }
    Set<Entry> done = new LinkedHashSet<>();
    List<Pattern> patterns = new ArrayList<>();
    alike.forEach(
        (general, bySchema) -> {
          bySchema.values().removeIf(done::contains);
          if (bySchema.size() >= WORTH_IT) {
            patterns.add(new Pattern(List.copyOf(bySchema.keySet()), general));
            done.addAll(bySchema.values());
          }
        });
    return new RolePatterns(patterns, roles.stream().filter(role -> !done.contains(role)).toList());
  }

  /** Whether a schema's name is none of the words of a sentence. */
  private static boolean canBeSaid(String schema) {
    return schema.matches("[a-z_][a-z0-9_]*")
        && !Adoption.WORDS.contains(schema)
        && NodeKind.named(schema) == null
        && Privilege.named(schema) == null;
  }

  /** With the variable wherever the schema's name stands as a word of its own. */
  private static Entry general(Entry role, String schema) {
    // the parts of a role's name stand between underscores
    String inName = "(?<![A-Za-z0-9$])" + schema + "(?![A-Za-z0-9$])";
    String inSentence = "(?<![\\w$\"])" + schema + "(?![\\w$\"])";
    return with(
        role,
        name -> name.replaceAll(inName, VARIABLE_TEXT),
        sentence -> sentence.replaceAll(inSentence, VARIABLE_TEXT));
  }

  private static Entry filled(Entry general, String schema) {
    UnaryOperator<String> fill = text -> text.replace(VARIABLE, schema);
    return with(general, fill, fill);
  }

  private static Entry with(
      Entry role, UnaryOperator<String> names, UnaryOperator<String> sentences) {
    return new Entry(
        names.apply(role.name()),
        role.disabled(),
        null,
        Map.of(),
        // no pattern says powers, so that a role with some is like no other
        List.of(),
        role.held().stream().map(names).toList(),
        role.may().stream().map(sentences).toList());
  }
}
