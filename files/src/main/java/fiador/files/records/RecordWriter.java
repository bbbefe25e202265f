package fiador.files.records;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.lang.reflect.RecordComponent;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Collection;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Writes a tree of records, lists, sets, maps, enums, texts, numbers and times. */
public final class RecordWriter {
  /** The packages whose records and enums are written. */
  static final String OURS = "fiador.";

  private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
  private final DataOutputStream out = new DataOutputStream(bytes);
  private final Map<Class<?>, Integer> types = new HashMap<>();
  private final Map<Class<?>, RecordComponent[]> components = new HashMap<>();
  private final Map<String, Integer> texts = new HashMap<>();
  private final IdentityHashMap<Record, Integer> records = new IdentityHashMap<>();
  private int numbered;

  private RecordWriter() {}

  /**
   * The tree as bytes. A record that stands at two places is written once and is one again when it
   * is read.
   *
   * @throws IOException when there is something in it that is none of these
   */
  public static byte[] write(Record tree) throws IOException {
    RecordWriter writer = new RecordWriter();
    writer.value(tree);
    writer.out.flush();
    return writer.bytes.toByteArray();
  }

  private void value(@Nullable Object value) throws IOException {
    if (value == null) {
      tag(Tag.NULL);
    } else if (value instanceof String text) {
      text(text);
    } else if (value instanceof Record part) {
      part(part);
    } else if (value instanceof List<?> list) {
      all(Tag.LIST, list);
    } else if (value instanceof Set<?> set) {
      all(Tag.SET, set);
    } else if (value instanceof Map<?, ?> map) {
      map(map);
    } else if (value instanceof Enum<?> constant) {
      tag(Tag.ENUM);
      type(constant.getDeclaringClass());
      out.writeShort(constant.ordinal());
    } else if (value instanceof Integer number) {
      tag(Tag.NUMBER);
      out.writeInt(number);
    } else if (value instanceof Long number) {
      tag(Tag.LONG_NUMBER);
      out.writeLong(number);
    } else if (value instanceof Boolean truth) {
      tag(truth ? Tag.TRUE : Tag.FALSE);
    } else {
      inWords(value);
    }
  }

  private void inWords(Object value) throws IOException {
    if (value instanceof BigDecimal) {
      tag(Tag.DECIMAL);
    } else if (value instanceof Instant) {
      tag(Tag.INSTANT);
    } else if (value instanceof LocalDate) {
      tag(Tag.DATE);
    } else if (value instanceof LocalDateTime) {
      tag(Tag.DATE_TIME);
    } else {
      throw new IOException("not among what is kept: " + value.getClass().getName());
    }
    text(value.toString());
  }

  private void tag(Tag tag) throws IOException {
    out.writeByte(tag.ordinal());
  }

  private void before(int number) throws IOException {
    tag(Tag.BEFORE);
    out.writeInt(number);
  }

  private void text(String text) throws IOException {
    Integer number = texts.putIfAbsent(text, numbered);
    if (number != null) {
      before(number);
      return;
    }
    numbered++;
    tag(Tag.TEXT);
    bytes(text);
  }

  private void bytes(String text) throws IOException {
    byte[] letters = text.getBytes(StandardCharsets.UTF_8);
    out.writeInt(letters.length);
    out.write(letters);
  }

  private void all(Tag tag, Collection<?> values) throws IOException {
    tag(tag);
    out.writeInt(values.size());
    for (Object value : values) {
      value(value);
    }
  }

  private void map(Map<?, ?> map) throws IOException {
    tag(map instanceof IdentityHashMap ? Tag.IDENTITY_MAP : Tag.MAP);
    out.writeInt(map.size());
    for (Map.Entry<?, ?> entry : map.entrySet()) {
      value(entry.getKey());
      value(entry.getValue());
    }
  }

  private void type(Class<?> type) throws IOException {
    if (!type.getName().startsWith(OURS)) {
      throw new IOException("not among what is kept: " + type.getName());
    }
    Integer number = types.putIfAbsent(type, types.size());
    out.writeShort(number == null ? types.size() - 1 : number);
    if (number == null) {
      bytes(type.getName());
    }
  }

  private void part(Record part) throws IOException {
    Integer number = records.get(part);
    if (number != null) {
      before(number);
      return;
    }
    tag(Tag.RECORD);
    type(part.getClass());
    for (RecordComponent component :
        components.computeIfAbsent(part.getClass(), Class::getRecordComponents)) {
      try {
        component.getAccessor().trySetAccessible();
        value(component.getAccessor().invoke(part));
      } catch (ReflectiveOperationException closed) {
        throw new IOException(component + " of " + part.getClass().getName(), closed);
      }
    }
    // what it is made of has been numbered by now, as it is when it is read
    records.put(part, numbered++);
  }
}
