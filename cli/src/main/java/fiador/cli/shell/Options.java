package fiador.cli.shell;

import fiador.report.rows.Format;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.IGetter;
import picocli.CommandLine.Model.ISetter;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Model.PositionalParamSpec;

/**
 * What a command takes from its command line, and where it goes. Said in code and not in
 * annotations: reading those takes the JVM 50 ms, a quarter of a short answer. A field keeps its
 * first value where nothing is given.
 */
public final class Options {
  private final CommandSpec spec;

  public Options(CommandSpec spec) {
    this.spec = spec;
  }

  /** An option without a value. */
  public void flag(String name, Consumer<Boolean> to, String... says) {
    spec.addOption(
        option(new Slot<>(to), name)
            .type(boolean.class)
            .description(String.join(" ", says))
            .build());
  }

  /** The option that asks for help. */
  void help(Consumer<Boolean> to, String... says) {
    OptionSpec.Builder help = option(new Slot<>(to), "-h", "--help").usageHelp(true);
    spec.addOption(help.type(boolean.class).description(String.join(" ", says)).build());
  }

  /** An option without a value that has a letter too. */
  public void flag(char letter, String name, Consumer<Boolean> to, String... says) {
    spec.addOption(
        option(new Slot<>(to), "-" + letter, name)
            .type(boolean.class)
            .description(String.join(" ", says))
            .build());
  }

  /** An option with a text. */
  public void option(String name, String label, Consumer<String> to, String... says) {
    option(name, label, String.class, to, says);
  }

  /** An option with a text, which has to be given. */
  public void required(String name, String label, Consumer<String> to, String... says) {
    spec.addOption(
        option(new Slot<>(to), name)
            .paramLabel(label)
            .type(String.class)
            .required(true)
            .description(String.join(" ", says))
            .build());
  }

  /** An option with a value of some type. */
  public <T> void option(String name, String label, Class<T> type, Consumer<T> to, String... says) {
    spec.addOption(
        option(new Slot<>(to), name)
            .paramLabel(label)
            .type(type)
            .description(String.join(" ", says))
            .build());
  }

  /** An option that may be given several times. */
  public <T> void list(
      String name, String label, Class<T> type, Consumer<List<T>> to, String... says) {
    OptionSpec.Builder list = option(new Slot<>(to), name).paramLabel(label);
    spec.addOption(
        list.type(List.class).auxiliaryTypes(type).description(String.join(" ", says)).build());
  }

  /** An option that may be given several times, with a name for each value. */
  public void map(String name, String label, Consumer<Map<String, String>> to, String... says) {
    OptionSpec.Builder map = option(new Slot<>(to), name).paramLabel(label);
    spec.addOption(
        map.type(Map.class)
            .auxiliaryTypes(String.class, String.class)
            .description(String.join(" ", says))
            .build());
  }

  /** Where the charter is. */
  public void charter(Consumer<Path> to) {
    option("--charter", "DIR", Path.class, to, "The charter's folder; else this one.");
  }

  /** In which form an answer is given. */
  public void format(Consumer<Format> to, String says) {
    option("--format", "F", Format.class, to, says);
  }

  /** What has to stand at the next place. */
  public void parameter(String label, Consumer<String> to, String... says) {
    parameter(label, String.class, to, says);
  }

  public <T> void parameter(String label, Class<T> type, Consumer<T> to, String... says) {
    place(label, true, type, to, says);
  }

  /** What may stand at the next place. */
  public void optional(String label, Consumer<String> to, String... says) {
    optional(label, String.class, to, says);
  }

  public <T> void optional(String label, Class<T> type, Consumer<T> to, String... says) {
    place(label, false, type, to, says);
  }

  /** All that may stand from the next place on. */
  public <T> void rest(String label, Class<T> type, Consumer<List<T>> to, String... says) {
    spec.addPositional(
        place(new Slot<>(to), label, next() + "..*", false)
            .type(List.class)
            .auxiliaryTypes(type)
            .description(String.join(" ", says))
            .build());
  }

  private <T> void place(
      String label, boolean required, Class<T> type, Consumer<T> to, String... says) {
    spec.addPositional(
        place(new Slot<>(to), label, next(), required)
            .type(type)
            .description(String.join(" ", says))
            .build());
  }

  private String next() {
    return Integer.toString(spec.positionalParameters().size());
  }

  private static OptionSpec.Builder option(Slot<?> slot, String... names) {
    return OptionSpec.builder(names).getter(slot).setter(slot).hasInitialValue(false);
  }

  private static PositionalParamSpec.Builder place(
      Slot<?> slot, String label, String index, boolean required) {
    PositionalParamSpec.Builder place = PositionalParamSpec.builder().getter(slot).setter(slot);
    return place
        .hasInitialValue(false)
        .paramLabel(label)
        .index(index)
        .arity(required ? "1" : "0..1")
        .required(required);
  }

  /** Where a value goes; what went there before is asked for by what may be given several times. */
  private static final class Slot<T> implements ISetter, IGetter {
    private final Consumer<T> to;
    private Object last;

    Slot(Consumer<T> to) {
      this.to = to;
    }

    @Override
    @SuppressWarnings({"unchecked", "TypeParameterUnusedInFormals"})
    public <V> V get() {
      return (V) last;
    }

    @Override
    @SuppressWarnings("unchecked")
    public <V> V set(V value) {
      V before = (V) last;
      last = value;
      to.accept((T) value);
      return before;
    }
  }
}
