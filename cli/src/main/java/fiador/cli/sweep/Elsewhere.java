package fiador.cli.sweep;

import fiador.refusal.BadInput;
import java.io.File;
import java.io.IOException;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * Runs a command in a process that has the engine: with the memory it was given, and the parts of
 * the JDK open that Spark reaches into. The engine's archive is unpacked beside Fiador's own, and
 * nothing else is looked for.
 */
final class Elsewhere {
  private static final List<String> OPEN =
      List.of(
          "java.base/java.lang",
          "java.base/java.lang.invoke",
          "java.base/java.lang.reflect",
          "java.base/java.io",
          "java.base/java.net",
          "java.base/java.nio",
          "java.base/java.util",
          "java.base/java.util.concurrent",
          "java.base/java.util.concurrent.atomic",
          "java.base/sun.nio.ch",
          "java.base/sun.nio.cs",
          "java.base/sun.security.action",
          "java.base/sun.util.calendar");

  private final String memory;
  private final List<Path> places;

  Elsewhere(String memory) {
    this(memory, places());
  }

  /** One that looks for the engine there. */
  Elsewhere(String memory, List<Path> places) {
    this.memory = memory;
    this.places = places;
  }

  /**
   * Runs it, with this process's input and output.
   *
   * @return its exit code
   */
  int run(String command, List<String> arguments) throws BadInput, IOException {
    List<String> line = new ArrayList<>();
    line.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    line.add("-Xmx" + memory);
    line.add("-XX:+UseParallelGC");
    for (String part : OPEN) {
      line.add("--add-opens=" + part + "=ALL-UNNAMED");
    }
    line.add("-Dlog4j2.configurationFile=fiador-sweep-log4j2.properties");
    line.add("-cp");
    line.add(home() + File.separator + "*");
    line.add("fiador.cli.Main");
    line.addAll(List.of(command.split(" ")));
    line.addAll(arguments);
    ProcessBuilder builder = new ProcessBuilder(line).inheritIO();
    builder.environment().put("SPARK_LOCAL_IP", "127.0.0.1");
    Process process = builder.start();
    // whoever stops this process stops that one
    Runtime.getRuntime().addShutdownHook(new Thread(process::destroy));
    try {
      return process.waitFor();
    } catch (InterruptedException interrupted) {
      process.destroy();
      Thread.currentThread().interrupt();
      throw new IOException("interrupted", interrupted);
    }
  }

  /** Where the engine may be: beside Fiador's own archives, or where it was built. */
  private static List<Path> places() {
    try {
      Path own =
          Path.of(Elsewhere.class.getProtectionDomain().getCodeSource().getLocation().toURI());
      return List.of(
          own.resolveSibling("../sweep").normalize(),
          own.resolveSibling("../../sweep/target/engine").normalize());
    } catch (URISyntaxException never) {
      throw new IllegalStateException(never);
    }
  }

  private Path home() throws BadInput {
    for (Path place : places) {
      if (Files.isRegularFile(place.resolve("fiador-sweep.jar"))) {
        return place;
      }
    }
    throw new BadInput(
        "the engine for sweeps is not here; it is an archive of its own, fiador-sweep: unpack it where"
            + " Fiador was unpacked, so that "
            + places.get(0)
            + " is there (in a checkout: mvn -DskipTests -pl sweep -am package)");
  }
}
