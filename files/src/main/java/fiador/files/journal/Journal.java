package fiador.files.journal;

import com.fasterxml.jackson.annotation.JsonAutoDetect;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.JsonDeserializer;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.JsonSerializer;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.PropertyNamingStrategies;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.jsontype.NamedType;
import com.fasterxml.jackson.databind.module.SimpleModule;
import fiador.changes.steps.Step;
import fiador.files.WholeFile;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Writes and reads journals. Every line is on the disk before the next statement is sent. */
public final class Journal implements AutoCloseable {
  /** The version of the format. */
  public static final int VERSION = 1;

  private static final ObjectMapper JSON = mapper();

  private final FileChannel file;

  /** Where each step stands: by what it is, not by what it says, since two may say the same. */
  private final IdentityHashMap<Step, Integer> places = new IdentityHashMap<>();

  private Journal(FileChannel file, List<Step> steps) {
    this.file = file;
    for (Step step : steps) {
      places.put(step, places.size());
    }
  }

  @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "step")
  private interface Typed {}

  @JsonAutoDetect(
      fieldVisibility = JsonAutoDetect.Visibility.ANY,
      isGetterVisibility = JsonAutoDetect.Visibility.NONE)
  private interface Plain {}

  private static ObjectMapper mapper() {
    SimpleModule times = new SimpleModule();
    times.addSerializer(
        Instant.class,
        new JsonSerializer<>() {
          @Override
          public void serialize(Instant value, JsonGenerator to, SerializerProvider provider)
              throws IOException {
            to.writeString(value.toString());
          }
        });
    times.addDeserializer(
        Instant.class,
        new JsonDeserializer<>() {
          @Override
          public Instant deserialize(JsonParser from, DeserializationContext context)
              throws IOException {
            return Instant.parse(from.getText());
          }
        });
    JsonMapper mapper =
        JsonMapper.builder()
            .addModule(times)
            .propertyNamingStrategy(PropertyNamingStrategies.SNAKE_CASE)
            .serializationInclusion(JsonInclude.Include.NON_NULL)
            .addMixIn(Step.class, Typed.class)
            .addMixIn(fiador.grants.Membership.class, Plain.class)
            .build();
    register(mapper, Step.class);
    return mapper;
  }

  /** Names each kind of step that there is, so that a new one needs nothing here. */
  private static void register(JsonMapper mapper, Class<?> family) {
    for (Class<?> kind : family.getPermittedSubclasses()) {
      if (kind.isSealed()) {
        register(mapper, kind);
      } else {
        String words = kind.getSimpleName().replaceAll("([a-z])([A-Z])", "$1 $2");
        mapper.registerSubtypes(new NamedType(kind, words.toLowerCase(Locale.ROOT)));
      }
    }
  }

  /** Where the journal is kept that was in this one's place before. */
  public static Path before(Path path) {
    return path.resolveSibling(path.getFileName() + ".before");
  }

  /**
   * Begins a journal. It takes its place only once it is whole and on the disk; the one before is
   * kept beside it.
   *
   * @param server the server's name
   * @param identity what tells the server from others; empty where that is not known
   * @throws IOException when it cannot be written; then the one before is still in its place
   */
  public static Journal begin(
      Path path, String server, String identity, Instant now, List<Step> steps) throws IOException {
    if (Files.isRegularFile(path)) {
      WholeFile.write(before(path), to -> Files.copy(path, to));
    }
    StringBuilder text = new StringBuilder();
    text.append(
            JSON.writeValueAsString(
                Map.of(
                    "fiador_journal",
                    VERSION,
                    "server",
                    server,
                    "identity",
                    identity,
                    "begun",
                    now.toString(),
                    "steps",
                    steps.size())))
        .append('\n');
    for (Step step : steps) {
      text.append(JSON.writerFor(Step.class).writeValueAsString(step)).append('\n');
    }
    WholeFile.write(path, text.toString());
    return new Journal(appending(path), steps);
  }

  private static FileChannel appending(Path path) throws IOException {
    return FileChannel.open(path, StandardOpenOption.WRITE, StandardOpenOption.APPEND);
  }

  /** Opens a journal that is there, to say that it came to its end. */
  public static Journal reopen(Path path, Contents contents) throws IOException {
    Journal journal = new Journal(appending(path), contents.steps());
    // the last line may have been cut off
    journal.append("\n");
    return journal;
  }

  private void append(String text) throws IOException {
    ByteBuffer bytes = ByteBuffer.wrap(text.getBytes(StandardCharsets.UTF_8));
    while (bytes.hasRemaining()) {
      file.write(bytes);
    }
    file.force(false);
  }

  /** Says that steps are about to be carried out. */
  public void begins(List<Step> some) throws IOException {
    append("{\"begins\":" + numbers(some) + "}\n");
  }

  /** Says that steps were carried out. */
  public void done(List<Step> some) throws IOException {
    append("{\"done\":" + numbers(some) + "}\n");
  }

  /** Says that all is done and nothing is open any more. */
  public void finished() throws IOException {
    append("{\"finished\":true}\n");
  }

  /** Says that nothing of it was carried out, or all of it rolled back. */
  public void refused() throws IOException {
    append("{\"refused\":true}\n");
  }

  private List<Integer> numbers(List<Step> some) {
    return some.stream().map(this::number).toList();
  }

  private int number(Step step) {
    Integer place = places.get(step);
    if (place == null) {
      throw new IllegalArgumentException("the journal knows of no such step: " + step);
    }
    return place;
  }

  @Override
  public void close() throws IOException {
    file.close();
  }

  /**
   * What a journal says.
   *
   * @param identity what tells its server from others; empty where that was not known
   * @param steps all steps
   * @param finished whether it came to its end
   * @param refused whether nothing of it was carried out for good
   */
  public record Contents(
      String server,
      String identity,
      Instant begun,
      List<Step> steps,
      boolean finished,
      boolean refused) {}

  /**
   * Reads a journal.
   *
   * @throws IOException when there is none, or its head or steps are damaged; a last line that was
   *     cut off is no damage
   */
  public static Contents read(Path path) throws IOException {
    List<String> lines = Files.readAllLines(path, StandardCharsets.UTF_8);
    try {
      JsonNode head = JSON.readTree(lines.isEmpty() ? "" : lines.get(0));
      if (head.path("fiador_journal").asInt() != VERSION) {
        throw new IOException(path + " is no journal of format " + VERSION);
      }
      int count = head.path("steps").asInt();
      List<Step> steps = new ArrayList<>();
      for (int i = 1; i <= count; i++) {
        steps.add(JSON.readValue(lines.get(i), Step.class));
      }
      boolean finished = lines.contains("{\"finished\":true}");
      boolean refused = lines.contains("{\"refused\":true}");
      return new Contents(
          head.path("server").asText(),
          head.path("identity").asText(""),
          Instant.parse(head.path("begun").asText()),
          steps,
          finished,
          refused);
    } catch (JsonProcessingException
        | IndexOutOfBoundsException
        | java.time.DateTimeException damaged) {
      throw new IOException(path + " is damaged: " + damaged.getMessage(), damaged);
    }
  }
}
