import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.ZipFile;

/**
 * Does with what is released what somebody would who gets it: checks its digests, unpacks it into a
 * fresh folder, asks for the version and takes both tours from there. Fails the build when any of it
 * is not as it should be.
 */
public final class TryRelease {
  private TryRelease() {}

  /** Arguments: the folder the release is in, its version, what the tour says. */
  public static void main(String[] args) throws Exception {
    Path built = Path.of(args[0]);
    String name = "fiador-" + args[1];
    digests(built);
    zipIsTheSame(built.resolve(name + ".zip"), name);
    Path fresh = Files.createTempDirectory("fiador-release");
    try {
      run(fresh, "tar", "xzf", built.resolve(name + ".tar.gz").toString());
      installed(fresh.resolve(name + "/bin/fiador"), fresh, Path.of(args[2]), args[1]);
      Path deb = built.resolve("fiador_" + args[1] + "_all.deb");
      if (there("dpkg-deb")) {
        Path root = fresh.resolve("root");
        run(fresh, "dpkg-deb", "-x", deb.toString(), root.toString());
        require(Files.isSymbolicLink(root.resolve("usr/bin/fiador")), "no /usr/bin/fiador");
        require(Files.isRegularFile(root.resolve("usr/share/man/man1/fiador-trace.1")), "no manual");
        Path completion = root.resolve("usr/share/bash-completion/completions/fiador");
        require(Files.isRegularFile(completion), "no completion");
        String said = run(fresh, root.resolve("usr/lib/fiador/bin/fiador").toString(), "--version");
        require(said.startsWith("fiador " + args[1]), "the package says: " + said);
      }
    } finally {
      try (Stream<Path> all = Files.walk(fresh)) {
        all.sorted(Comparator.reverseOrder()).forEach(path -> path.toFile().delete());
      }
    }
    System.out.println("the release works from where it was unpacked");
  }

  private static void digests(Path built) throws Exception {
    List<String> lines = Files.readAllLines(built.resolve("SHA256SUMS"));
    require(lines.size() == 4, "SHA256SUMS has " + lines.size() + " lines");
    for (String line : lines) {
      String[] parts = line.trim().split(" +\\*?", 2);
      Path file = built.resolve(Path.of(parts[1]).getFileName());
      byte[] digest = MessageDigest.getInstance("SHA-256").digest(Files.readAllBytes(file));
      require(HexFormat.of().formatHex(digest).equals(parts[0]), "another digest: " + file);
    }
  }

  private static void zipIsTheSame(Path zip, String name) throws IOException {
    try (ZipFile entries = new ZipFile(zip.toFile())) {
      require(entries.getEntry(name + "/bin/fiador.cmd") != null, "no bin/fiador.cmd");
      require(entries.getEntry(name + "/lib/" + name.replace("-", "-cli-") + ".jar") != null, "no jar");
      require(entries.getEntry(name + "/man/man1/fiador-trace.1") != null, "no manual");
    }
  }

  private static void installed(Path fiador, Path fresh, Path golden, String version)
      throws Exception {
    String said = run(fresh, fiador.toString(), "--version");
    require(said.startsWith("fiador " + version), "it says: " + said);
    Path tour = fresh.resolve("tour");
    String told = run(fresh, fiador.toString(), "tour", tour.toString(), "--width", "100");
    String shown = withoutTimes(told).replace(tour.toString(), "FOLDER");
    require(shown.equals(Files.readString(golden)), "another tour than " + golden + ":\n" + shown);
    // tests have everything on their class path; what is released must have the stand-in's engine
    Path standIn = fresh.resolve("stand-in");
    said = run(fresh, fiador.toString(), "tour", "--stand-in", standIn.toString(), "--width", "100");
    require(said.contains("surveyed again: no gap"), "the tour on a stand-in says:\n" + said);
  }

  private static String withoutTimes(String text) {
    return text.replaceAll("\\d+ (s|min|h|days) old", "0 s old")
        .replaceAll(" +\\((\\d+ )?survey", "  ($1survey")
        .replaceAll("\\d{4}-\\d\\d-\\d\\d \\d\\d:\\d\\d:\\d\\d", "THEN")
        .replaceAll("(settle|undo) by \\S+", "$1 by SOMEBODY");
  }

  private static boolean there(String program) {
    return Stream.of(System.getenv("PATH").split(":"))
        .anyMatch(folder -> Files.isExecutable(Path.of(folder, program)));
  }

  private static String run(Path in, String... command) throws Exception {
    ProcessBuilder builder = new ProcessBuilder(new ArrayList<>(List.of(command)));
    builder.environment().put("XDG_CACHE_HOME", in.resolve("cache").toString());
    Process process = builder.directory(in.toFile()).redirectErrorStream(true).start();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    require(process.waitFor() == 0, String.join(" ", command) + "\n" + said);
    return said;
  }

  private static void require(boolean so, String what) {
    if (!so) {
      throw new IllegalStateException(what);
    }
  }
}
