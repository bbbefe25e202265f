package fiador.files.charter;

import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.Wanted.Target;
import fiador.estate.Nearest;
import fiador.files.charter.Draft.RoleEntry;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Roles that a charter says once for many: a pattern with variables. */
final class RoleTemplate {
  private RoleTemplate() {}

  /** Says which variables a template uses that there are not. */
  static void check(RoleEntry template, List<String> known, Mistakes mistakes) {
    Matcher used = Pattern.compile("\\{(\\w*)}").matcher("");
    List<Scalar> texts = new ArrayList<>(template.includes());
    texts.add(template.name());
    for (Scalar text : texts) {
      used.reset(text.text());
      while (used.find()) {
        if (!known.contains(used.group(1))) {
          mistakes.add(
              text.at(used.start()),
              "the pattern has no variable {"
                  + used.group(1)
                  + "}"
                  + Nearest.hint(used.group(1), known.stream()));
        }
      }
    }
    for (Sentence sentence : template.may()) {
      for (Target target : sentence.targets()) {
        used.reset(target.text());
        while (used.find()) {
          if (!known.contains(used.group(1))) {
            mistakes.add(
                sentence.place(),
                "the pattern has no variable {"
                    + used.group(1)
                    + "}"
                    + Nearest.hint(used.group(1), known.stream()));
          }
        }
      }
    }
  }

  /** The role that comes of a template with these values. */
  static RoleEntry filled(RoleEntry template, Map<String, String> values) {
    return new RoleEntry(
        filled(template.name(), values),
        template.purpose(),
        template.includes().stream().map(scalar -> filled(scalar, values)).toList(),
        template.may().stream().map(sentence -> filled(sentence, values)).toList(),
        template.mayNot().stream().map(sentence -> filled(sentence, values)).toList(),
        template.owns().stream().map(scalar -> filled(scalar, values)).toList());
  }

  private static Scalar filled(Scalar scalar, Map<String, String> values) {
    return new Scalar(filled(scalar.text(), values), scalar.quoted(), scalar.place());
  }

  private static Sentence filled(Sentence sentence, Map<String, String> values) {
    List<Target> targets = new ArrayList<>();
    for (Target target : sentence.targets()) {
      targets.add(
          target instanceof Every every
              ? new Every(every.kinds(), filled(every.container(), values), every.label())
              : new Single(((Single) target).kind(), filled(((Single) target).name(), values)));
    }
    List<Action> actions = new ArrayList<>();
    for (Action action : sentence.actions()) {
      actions.add(
          new Action(
              action.privilege(),
              action.columns().stream().map(column -> filled(column, values)).toList(),
              action.except()));
    }
    return new Sentence(
        actions,
        targets,
        sentence.now(),
        sentence.later(),
        sentence.grantOption(),
        sentence.madeBy(),
        sentence.when(),
        sentence.place());
  }

  private static String filled(String text, Map<String, String> values) {
    String filled = text;
    for (Map.Entry<String, String> value : values.entrySet()) {
      filled = filled.replace("{" + value.getKey() + "}", value.getValue());
    }
    return filled;
  }
}
