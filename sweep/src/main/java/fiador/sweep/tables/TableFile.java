package fiador.sweep.tables;

import java.io.IOException;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.Path;
import org.apache.parquet.hadoop.ParquetFileWriter;
import org.apache.parquet.hadoop.ParquetWriter;
import org.apache.parquet.hadoop.api.WriteSupport;
import org.apache.parquet.hadoop.metadata.CompressionCodecName;
import org.apache.parquet.hadoop.util.HadoopOutputFile;
import org.apache.parquet.io.OutputFile;
import org.apache.parquet.io.api.Binary;
import org.apache.parquet.io.api.RecordConsumer;
import org.apache.parquet.schema.LogicalTypeAnnotation;
import org.apache.parquet.schema.MessageType;
import org.apache.parquet.schema.PrimitiveType.PrimitiveTypeName;
import org.apache.parquet.schema.Type;
import org.apache.parquet.schema.Types;
import org.jspecify.annotations.Nullable;

/** One Parquet file of a table. Cost: the rows; memory: a row group of 16 MiB. */
public final class TableFile implements AutoCloseable {
  private static final long ROW_GROUP = 16L << 20;
  private static final int PAGE = 256 << 10;

  private final ParquetWriter<@Nullable Object[]> writer;

  /** Begins a file, which must not be there yet. */
  public TableFile(Table table, Path file, Configuration configuration) throws IOException {
    this.writer =
        new Builder(table, HadoopOutputFile.fromPath(file, configuration))
            .withConf(configuration)
            .withCompressionCodec(CompressionCodecName.ZSTD)
            .withWriteMode(ParquetFileWriter.Mode.CREATE)
            .withRowGroupSize(ROW_GROUP)
            .withPageSize(PAGE)
            .withSizeStatisticsEnabled(false)
            // a table of numbers alone has nothing that looking it up would make shorter
            .withDictionaryEncoding(
                table.fields().stream().anyMatch(each -> each.type() != Field.Type.NUMBER))
            .build();
  }

  /**
   * Writes a row.
   *
   * @param values one for each field: text, number, truth value, microseconds since 1970, or texts;
   *     null for what is missing
   */
  public void row(@Nullable Object... values) throws IOException {
    writer.write(values);
  }

  @Override
  public void close() throws IOException {
    writer.close();
  }

  /** How a table stands in Parquet; lists have the three levels that all readers know. */
  static MessageType schema(Table table) {
    Types.MessageTypeBuilder message = Types.buildMessage();
    for (Field field : table.fields()) {
      message.addField(type(field));
    }
    return message.named(table.folder());
  }

  private static Type type(Field field) {
    LogicalTypeAnnotation text = LogicalTypeAnnotation.stringType();
    return switch (field.type()) {
      case TEXT -> Types.optional(PrimitiveTypeName.BINARY).as(text).named(field.name());
      case NUMBER -> Types.optional(PrimitiveTypeName.INT64).named(field.name());
      case FLAG -> Types.optional(PrimitiveTypeName.BOOLEAN).named(field.name());
      case TIME ->
          Types.optional(PrimitiveTypeName.INT64)
              .as(LogicalTypeAnnotation.timestampType(true, LogicalTypeAnnotation.TimeUnit.MICROS))
              .named(field.name());
      case TEXTS ->
          Types.optionalList()
              .optionalElement(PrimitiveTypeName.BINARY)
              .as(text)
              .named(field.name());
    };
  }

  private static final class Builder extends ParquetWriter.Builder<@Nullable Object[], Builder> {
    private final Table table;

    Builder(Table table, OutputFile file) {
      super(file);
      this.table = table;
    }

    @Override
    protected Builder self() {
      return this;
    }

    @Override
    @SuppressWarnings("deprecation")
    protected WriteSupport<@Nullable Object[]> getWriteSupport(Configuration configuration) {
      return new Rows(table);
    }
  }

  private static final class Rows extends WriteSupport<@Nullable Object[]> {
    /** Texts come again and again: names of privileges, of things. */
    private static final int REMEMBERED = 20_000;

    private final Table table;
    private final Map<String, Binary> texts = new HashMap<>();
    private @Nullable RecordConsumer to;

    Rows(Table table) {
      this.table = table;
    }

    @Override
    @SuppressWarnings("deprecation")
    public WriteContext init(Configuration configuration) {
      return new WriteContext(schema(table), Map.of());
    }

    @Override
    public void prepareForWrite(RecordConsumer consumer) {
      to = consumer;
    }

    @Override
    public void write(@Nullable Object[] row) {
      RecordConsumer out = java.util.Objects.requireNonNull(to);
      List<Field> fields = table.fields();
      if (row.length != fields.size()) {
        throw new IllegalArgumentException(table + " has other columns: " + row.length);
      }
      out.startMessage();
      for (int at = 0; at < row.length; at++) {
        Object value = row[at];
        if (value != null) {
          String name = fields.get(at).name();
          out.startField(name, at);
          value(out, fields.get(at).type(), value);
          out.endField(name, at);
        }
      }
      out.endMessage();
    }

    private void value(RecordConsumer out, Field.Type type, Object value) {
      switch (type) {
        case TEXT -> out.addBinary(binary((String) value));
        case NUMBER, TIME -> out.addLong(((Number) value).longValue());
        case FLAG -> out.addBoolean((Boolean) value);
        case TEXTS -> list(out, (Collection<?>) value);
      }
    }

    private void list(RecordConsumer out, Collection<?> items) {
      out.startGroup();
      if (!items.isEmpty()) {
        out.startField("list", 0);
        for (Object item : items) {
          out.startGroup();
          out.startField("element", 0);
          out.addBinary(binary(item.toString()));
          out.endField("element", 0);
          out.endGroup();
        }
        out.endField("list", 0);
      }
      out.endGroup();
    }

    private Binary binary(String text) {
      if (texts.size() > REMEMBERED) {
        texts.clear();
      }
      return texts.computeIfAbsent(text, Binary::fromString);
    }
  }
}
