package fiador.cli.ask;

import fiador.cli.shell.Options;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.selection.Selection;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;

/** Options that narrow an answer down. */
final class Narrowing {
  private String to;
  private String by;
  private String role;
  private String on;
  private String schema;
  private String kind;
  private String privilege;
  private String without;

  /** By who was given something, and by whom. */
  void given(Options options) {
    options.option(
        "--to", "NAME", value -> to = value, "Only what this user or role was given, or holds.");
    options.option("--by", "NAME", value -> by = value, "Only what this user or role gave.");
    options.option(
        "--role",
        "NAME",
        value -> role = value,
        "Only this role: its members, or what it gives, itself or through roles it holds.");
    options.option("--on", "OBJECT", value -> on = value, "Only what is on this.");
  }

  /** By what it is about. */
  void things(Options options) {
    options.option(
        "--schema", "NAME", value -> schema = value, "Only this schema and what is in it.");
    options.option(
        "--kind", "KIND", value -> kind = value, "Only things of that kind: table, view, ...");
    options.option(
        "--privilege", "NAME", value -> privilege = value, "Only that privilege: select, ...");
    options.option(
        "--without", "public", value -> without = value, "Leaves out what everybody has.");
  }

  /**
   * Sees to it that nothing is narrowed by what an answer knows nothing of.
   *
   * @param about what is asked for
   * @param known the options that narrow it, without their dashes
   */
  void check(String about, Set<String> known) throws BadInput {
    Map<String, String> given = new LinkedHashMap<>();
    given.put("to", to);
    given.put("by", by);
    given.put("role", role);
    given.put("on", on);
    given.put("schema", schema);
    given.put("kind", kind);
    given.put("privilege", privilege);
    given.put("without", without);
    for (Map.Entry<String, String> option : given.entrySet()) {
      if (option.getValue() != null && !known.contains(option.getKey())) {
        throw new BadInput(
            "--"
                + option.getKey()
                + " does not narrow "
                + about
                + (known.isEmpty()
                    ? ""
                    : "; --" + String.join(", --", known) + (known.size() == 1 ? " does" : " do")));
      }
    }
  }

  /** What is left of an estate. */
  Selection selection(Access access) throws BadInput {
    if (without != null && !without.equalsIgnoreCase("public")) {
      throw new BadInput("--without takes public, not " + without);
    }
    Selection selection = new Selection(access);
    narrow(to, selection::to);
    narrow(by, selection::by);
    narrow(role, selection::role);
    narrow(on, selection::on);
    narrow(schema, selection::schema);
    narrow(kind, selection::kind);
    narrow(privilege, selection::privilege);
    return without == null ? selection : selection.withoutPublic();
  }

  private interface Step {
    Selection with(String value) throws BadInput;
  }

  private static void narrow(String value, Step step) throws BadInput {
    if (value != null) {
      step.with(value);
    }
  }
}
