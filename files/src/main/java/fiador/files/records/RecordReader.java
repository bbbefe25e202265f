package fiador.files.records;

import java.io.IOException;
import java.lang.reflect.Constructor;
import java.lang.reflect.RecordComponent;
import java.math.BigDecimal;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Reads what {@link RecordWriter} wrote. */
public final class RecordReader {
  private final ByteBuffer in;
  private final List<Type> types = new ArrayList<>();
  private final List<Object> before = new ArrayList<>();

  /**
   * A record or an enum.
   *
   * @param constants those of an enum
   * @param constructor that of a record
   */
  private record Type(Object @Nullable [] constants, @Nullable Constructor<?> constructor) {}

  private RecordReader(ByteBuffer in) {
    this.in = in;
  }

  /**
   * The tree that was written.
   *
   * @throws IOException when these are not the bytes of such a tree, or of other classes
   */
  public static <T extends Record> T read(ByteBuffer in, Class<T> kind) throws IOException {
    try {
      Object tree = new RecordReader(in).value();
      if (tree == null) {
        throw new IOException("nothing is there");
      }
      return kind.cast(tree);
    } catch (ReflectiveOperationException
        | BufferUnderflowException
        | IndexOutOfBoundsException
        | NegativeArraySizeException
        | IllegalArgumentException
        | DateTimeException
        | ClassCastException otherClasses) {
      throw new IOException("not the records of these classes", otherClasses);
    }
  }

  private @Nullable Object value() throws IOException, ReflectiveOperationException {
    Tag tag = Tag.of(in.get());
    if (tag == null) {
      throw new IOException("no such value");
    }
    return switch (tag) {
      case NULL -> null;
      case BEFORE -> before.get(in.getInt());
      case TEXT -> {
        String text = bytes();
        before.add(text);
        yield text;
      }
      case NUMBER -> in.getInt();
      case LONG_NUMBER -> in.getLong();
      case TRUE -> true;
      case FALSE -> false;
      case LIST -> Collections.unmodifiableList(Arrays.asList(all()));
      case SET -> set();
      case MAP -> Collections.unmodifiableMap(map(new LinkedHashMap<>()));
      case IDENTITY_MAP -> map(new IdentityHashMap<>());
      case ENUM -> constant();
      case RECORD -> part();
      case DECIMAL -> new BigDecimal(text());
      case INSTANT -> Instant.parse(text());
      case DATE -> LocalDate.parse(text());
      case DATE_TIME -> LocalDateTime.parse(text());
    };
  }

  private String text() throws IOException, ReflectiveOperationException {
    if (value() instanceof String text) {
      return text;
    }
    throw new IOException("no text");
  }

  private String bytes() throws IOException {
    byte[] letters = new byte[size()];
    in.get(letters);
    return new String(letters, StandardCharsets.UTF_8);
  }

  /** No more of anything than there are bytes left. */
  private int size() throws IOException {
    int size = in.getInt();
    if (size < 0 || size > in.remaining()) {
      throw new IOException("longer than what is there");
    }
    return size;
  }

  private @Nullable Object[] all() throws IOException, ReflectiveOperationException {
    @Nullable Object[] all = new Object[size()];
    for (int i = 0; i < all.length; i++) {
      all[i] = value();
    }
    return all;
  }

  private Set<Object> set() throws IOException, ReflectiveOperationException {
    Set<Object> set = new LinkedHashSet<>();
    Collections.addAll(set, all());
    return Collections.unmodifiableSet(set);
  }

  private Map<Object, Object> map(Map<Object, Object> map)
      throws IOException, ReflectiveOperationException {
    for (int left = size(); left > 0; left--) {
      Object key = value();
      map.put(key, value());
    }
    return map;
  }

  private Type type() throws IOException, ReflectiveOperationException {
    int number = in.getShort() & 0xffff;
    if (number == types.size()) {
      String name = bytes();
      if (!name.startsWith(RecordWriter.OURS)) {
        throw new IOException("none of ours: " + name);
      }
      Class<?> found = Class.forName(name, false, RecordReader.class.getClassLoader());
      types.add(new Type(found.getEnumConstants(), found.isRecord() ? whole(found) : null));
    }
    return types.get(number);
  }

  /** The constructor that takes all components. */
  private static Constructor<?> whole(Class<?> type) throws ReflectiveOperationException {
    Constructor<?>[] all = type.getDeclaredConstructors();
    // most have one, and asking for the components takes as long as all else
    Constructor<?> whole =
        all.length == 1
            ? all[0]
            : type.getDeclaredConstructor(
                Arrays.stream(type.getRecordComponents())
                    .map(RecordComponent::getType)
                    .toArray(Class<?>[]::new));
    whole.trySetAccessible();
    return whole;
  }

  private Object constant() throws IOException, ReflectiveOperationException {
    Object[] constants = type().constants();
    if (constants == null) {
      throw new IOException("no enum");
    }
    return constants[in.getShort()];
  }

  private Object part() throws IOException, ReflectiveOperationException {
    Constructor<?> whole = type().constructor();
    if (whole == null) {
      throw new IOException("no record");
    }
    @Nullable Object[] parts = new Object[whole.getParameterCount()];
    for (int i = 0; i < parts.length; i++) {
      parts[i] = value();
    }
    Object part = whole.newInstance(parts);
    before.add(part);
    return part;
  }
}
