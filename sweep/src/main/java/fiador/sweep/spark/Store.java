package fiador.sweep.spark;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import fiador.files.Kept;
import fiador.refusal.BadInput;
import fiador.sweep.tables.Table;
import fiador.sweep.tables.TableFiles;
import java.io.Closeable;
import java.io.FileNotFoundException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.Serializable;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.FileStatus;
import org.apache.hadoop.fs.FileSystem;
import org.apache.hadoop.fs.Path;
import org.apache.spark.util.SerializableConfiguration;
import org.jspecify.annotations.Nullable;

/**
 * Where a sweep is kept. A server's rows are put in their place when all of them are there: its row
 * in {@link Table#SERVERS} goes first and comes last, so whoever finds that row finds the rest, and
 * what an interrupted sweep leaves is worked out again.
 */
final class Store implements Serializable {
  private static final long serialVersionUID = 1L;

  private static final String OWN = "_sweep";

  private final String into;
  private final SerializableConfiguration configuration;

  /** One there; a path is one of this machine's, wherever its workers stand. */
  Store(String into, Configuration configuration) throws IOException {
    Path place = new Path(into);
    this.into = place.getFileSystem(configuration).makeQualified(place).toString();
    this.configuration = new SerializableConfiguration(configuration);
  }

  /**
   * What is remembered of a server.
   *
   * @param digest of its survey
   * @param inputs of what else its rows depend on
   * @param until the second since 1970 from which on its rows may be others
   * @param addresses where it is reached
   * @param leads the addresses to which tables of it lead
   * @param around of the surveys its {@link Table#ARRIVALS} were worked out with; empty where they
   *     were not
   */
  record State(
      String digest,
      String inputs,
      long until,
      List<String> addresses,
      List<String> leads,
      String around)
      implements Serializable {
    State around(String digestOfAll) {
      return new State(digest, inputs, until, addresses, leads, digestOfAll);
    }
  }

  Configuration configuration() {
    return configuration.value();
  }

  FileSystem files() throws IOException {
    return new Path(into).getFileSystem(configuration());
  }

  /** Where new rows are written first. */
  Path fresh(String run, String server, String attempt) {
    return new Path(new Path(into), OWN + "/new/" + run + "/" + folder(server) + "/" + attempt);
  }

  /** Where the rows of a server are. */
  Path of(Table table, String server) {
    return new Path(new Path(into), table.folder() + "/" + folder(server));
  }

  /**
   * The folder of a server, as engines that know partitions read it. What would mean something in a
   * path stands as its number; so do marks that engines take for such.
   */
  static String folder(String server) {
    StringBuilder name = new StringBuilder("server=");
    for (int at = 0; at < server.length(); at++) {
      char c = server.charAt(at);
      boolean plain = c > ' ' && c != 0x7f && "\"#%'*/:=?\\{}[]^+&".indexOf(c) < 0;
      name.append(plain ? String.valueOf(c) : String.format("%%%02X", (int) c));
    }
    return name.toString();
  }

  private Path state(String server) {
    return new Path(new Path(into), OWN + "/state/" + folder(server) + ".json");
  }

  /** What is remembered of a server; null for nothing that can be used. */
  @Nullable State remembered(String server) throws IOException {
    try (InputStream in = files().open(state(server))) {
      JsonNode json = new ObjectMapper().readTree(in);
      return new State(
          json.path("digest").asText(),
          json.path("inputs").asText(),
          json.path("until").asLong(),
          texts(json.path("addresses")),
          texts(json.path("leads")),
          json.path("around").asText());
    } catch (FileNotFoundException | com.fasterxml.jackson.core.JacksonException none) {
      return null;
    }
  }

  private static List<String> texts(JsonNode array) {
    List<String> found = new ArrayList<>();
    array.forEach(each -> found.add(each.asText()));
    return found;
  }

  private void remember(String server, State state) throws IOException {
    ObjectNode json = new ObjectMapper().createObjectNode();
    json.put("digest", state.digest()).put("inputs", state.inputs()).put("until", state.until());
    state.addresses().forEach(json.putArray("addresses")::add);
    state.leads().forEach(json.putArray("leads")::add);
    json.put("around", state.around());
    try (OutputStream out = files().create(state(server), true)) {
      out.write(json.toString().getBytes(StandardCharsets.UTF_8));
    }
  }

  /** The servers that have rows. */
  Set<String> servers() throws IOException {
    Set<String> found = new HashSet<>();
    Path states = new Path(new Path(into), OWN + "/state");
    if (files().exists(states)) {
      for (FileStatus each : files().listStatus(states)) {
        found.add(each.getPath().getName());
      }
    }
    // one that failed from the start has a row and nothing to be remembered
    Path rows = new Path(new Path(into), Table.SERVERS.folder());
    if (files().exists(rows)) {
      for (FileStatus each : files().listStatus(rows)) {
        found.add(each.getPath().getName() + ".json");
      }
    }
    return found;
  }

  /** Which of those are none of these. */
  List<String> gone(List<SurveyFile> surveys) throws IOException {
    Set<String> there = new HashSet<>();
    surveys.forEach(survey -> there.add(state(survey.server()).getName()));
    List<String> gone = new ArrayList<>();
    for (String name : servers()) {
      if (name.startsWith("server=") && !there.contains(name)) {
        gone.add(unfolded(name.substring(0, name.length() - ".json".length())));
      }
    }
    gone.sort(String::compareTo);
    return gone;
  }

  private static String unfolded(String folder) {
    StringBuilder name = new StringBuilder();
    String written = folder.substring("server=".length());
    for (int at = 0; at < written.length(); at++) {
      if (written.charAt(at) == '%') {
        name.append((char) Integer.parseInt(written.substring(at + 1, at + 3), 16));
        at += 2;
      } else {
        name.append(written.charAt(at));
      }
    }
    return name.toString();
  }

  /** Takes the rows of a server away, but for what changed there. */
  void remove(String server) throws IOException {
    files().delete(state(server), false);
    files().delete(of(Table.SERVERS, server), true);
    for (Table table : Table.values()) {
      if (table != Table.CHANGES) {
        files().delete(of(table, server), true);
      }
    }
  }

  /**
   * Rows that were written, not yet in their place.
   *
   * @param folder where they are
   * @param tables the tables that have some
   */
  record Written(Path folder, Set<Table> tables) {}

  /**
   * Puts the new rows of a server in the place of the old ones.
   *
   * @param parts what was written, in order
   * @param run tells these files from all others
   */
  void put(String server, List<Written> parts, String run, State state) throws IOException {
    check(parts);
    remove(server);
    for (Table table : Table.values()) {
      if (table != Table.SERVERS) {
        move(table, server, parts, run);
      }
    }
    move(Table.SERVERS, server, parts, run);
    remember(server, state);
  }

  /** Puts a new row about a server in the place of the old one; all else stays. */
  void putServerRow(String server, Written part, String run) throws IOException {
    check(List.of(part));
    files().delete(of(Table.SERVERS, server), true);
    move(Table.SERVERS, server, List.of(part), run);
    files().delete(state(server), false);
  }

  /**
   * Puts who comes from elsewhere in the place of what was known of that; all else stays.
   *
   * @param part what was written; null where nobody comes
   * @param state with the surveys it is from
   */
  void putArrivals(String server, @Nullable Written part, String run, State state)
      throws IOException {
    List<Written> parts = part == null ? List.of() : List.of(part);
    check(parts);
    remember(server, state.around(""));
    files().delete(of(Table.ARRIVALS, server), true);
    move(Table.ARRIVALS, server, parts, run);
    remember(server, state);
  }

  private static Path file(Written part, Table table) {
    return new Path(part.folder(), TableFiles.name(table));
  }

  /** What a worker wrote has to be where it said, also from here, before anything is taken away. */
  private void check(List<Written> parts) throws IOException {
    for (Written part : parts) {
      for (Table table : part.tables()) {
        if (!files().exists(file(part, table))) {
          throw new IOException(
              "what a worker wrote to "
                  + part.folder()
                  + " is not there; is the place of the sweep"
                  + " one that all workers share?");
        }
      }
    }
  }

  private void move(Table table, String server, List<Written> parts, String run)
      throws IOException {
    Path folder = of(table, server);
    for (int at = 0; at < parts.size(); at++) {
      if (parts.get(at).tables().contains(table)) {
        Path written = file(parts.get(at), table);
        Path place = new Path(folder, run + "-" + at + ".parquet");
        files().mkdirs(folder);
        if (!files().rename(written, place)) {
          throw new IOException("could not move " + written + " to " + place);
        }
      }
    }
  }

  /**
   * Keeps other sweeps from the same place until it is closed, where it is on a disk of this
   * machine: the system lets go of it with whoever holds it.
   *
   * @throws BadInput when another is under way there
   */
  Closeable lock() throws BadInput, IOException {
    if (!"file".equals(files().getUri().getScheme())) {
      return () -> {};
    }
    Path own = new Path(new Path(into), OWN);
    files().mkdirs(own);
    java.nio.file.Path file = java.nio.file.Path.of(own.toUri().getPath(), "lock");
    FileChannel channel =
        FileChannel.open(
            file, Set.of(StandardOpenOption.CREATE, StandardOpenOption.WRITE), Kept.file());
    try {
      if (channel.tryLock() != null) {
        return channel;
      }
    } catch (OverlappingFileLockException held) {
      // another thread of this process holds it
    }
    channel.close();
    throw new BadInput("another sweep into " + into + " is under way");
  }

  /** Takes away what earlier sweeps left unfinished. */
  void tidy() throws IOException {
    files().delete(new Path(new Path(into), OWN + "/new"), true);
  }
}
