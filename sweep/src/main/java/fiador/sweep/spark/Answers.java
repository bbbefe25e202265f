package fiador.sweep.spark;

import static org.apache.spark.sql.functions.array_contains;
import static org.apache.spark.sql.functions.coalesce;
import static org.apache.spark.sql.functions.col;
import static org.apache.spark.sql.functions.lit;
import static org.apache.spark.sql.functions.lower;
import static org.apache.spark.sql.functions.timestamp_micros;

import fiador.refusal.BadInput;
import fiador.sweep.estate.Changes;
import fiador.sweep.tables.Field;
import fiador.sweep.tables.Table;
import fiador.work.sweeping.Sweeps.Question;
import fiador.work.sweeping.Sweeps.Reading;
import fiador.work.sweeping.Sweeps.Servers;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.FileSystem;
import org.apache.hadoop.fs.Path;
import org.apache.spark.sql.Column;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Encoders;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructType;
import scala.jdk.javaapi.CollectionConverters;

/** Questions to the tables of a sweep. */
final class Answers {
  /** Below so many bytes, making code for a question takes longer than answering it without. */
  private static final long SMALL = 128L << 20;

  private static final List<String> WORKS = List.of("live", "on-request");

  private final SparkSession session;
  private final String sweep;

  Answers(SparkSession session, String sweep) {
    this.session = session;
    this.sweep = sweep;
  }

  <T> T to(Question question, Reading<T> reading) throws BadInput, IOException {
    Configuration configuration = session.sparkContext().hadoopConfiguration();
    Path servers = new Path(new Path(sweep), Table.SERVERS.folder());
    if (!servers.getFileSystem(configuration).exists(servers)) {
      throw new BadInput(
          sweep + " is no sweep; fiador sweep SURVEYS --into " + sweep + " makes one");
    }
    FileSystem files = servers.getFileSystem(configuration);
    String large = String.valueOf(isLarge(files));
    session.conf().set("spark.sql.adaptive.enabled", large);
    session.conf().set("spark.sql.codegen.wholeStage", large);
    Dataset<Row> found =
        question instanceof Question.Who who
            ? who(who)
            : question instanceof Question.Person person
                ? person(person)
                : changed((Question.Changed) question);
    String[] fields = question.fields().toArray(String[]::new);
    Iterator<Row> rows = named(found).select(cols(fields)).toLocalIterator();
    Iterator<Map<String, Object>> maps =
        new Iterator<>() {
          @Override
          public boolean hasNext() {
            return rows.hasNext();
          }

          @Override
          public Map<String, Object> next() {
            return map(rows.next(), fields);
          }
        };
    return reading.read(maps, servers());
  }

  /** In answers these are called as in those of other commands; tables keep off words of SQL. */
  private static Dataset<Row> named(Dataset<Row> found) {
    return found
        .withColumnRenamed("column_names", "columns")
        .withColumnRenamed("rows_seen", "rows")
        .withColumnRenamed("masked_columns", "masked");
  }

  private static Column[] cols(String... names) {
    return Arrays.stream(names).map(name -> col(name)).toArray(Column[]::new);
  }

  private boolean isLarge(FileSystem files) throws IOException {
    Path contents = new Path(new Path(sweep), Table.CONTENTS.folder());
    return files.exists(contents) && files.getContentSummary(contents).getLength() > SMALL;
  }

  private static Map<String, Object> map(Row row, String... fields) {
    Map<String, Object> map = new LinkedHashMap<>();
    for (int at = 0; at < fields.length; at++) {
      Object value = row.isNullAt(at) ? null : row.get(at);
      if (value instanceof scala.collection.Seq<?> items) {
        value = CollectionConverters.asJava(items);
      } else if (value instanceof Instant || value instanceof Timestamp) {
        value = (value instanceof Timestamp time ? time.toInstant() : value).toString();
      }
      map.put(fields[at], value);
    }
    return map;
  }

  private Servers servers() {
    Dataset<Row> all = table(Table.SERVERS);
    Row counts =
        all.selectExpr("count(surveyed)", "count(failed)", "unix_micros(min(surveyed))").first();
    return new Servers(
        counts.getLong(0),
        counts.getLong(1),
        counts.isNullAt(2) ? null : Instant.EPOCH.plus(counts.getLong(2), ChronoUnit.MICROS));
  }

  /**
   * A table, with the server as its last column. The columns are those of the contract, so that no
   * file has to be looked into to know them, and a server called 007 stays a text.
   */
  private Dataset<Row> table(Table table) {
    StructType schema = new StructType();
    for (Field field : table.fields()) {
      schema =
          schema.add(
              field.name(),
              switch (field.type()) {
                case TEXT -> DataTypes.StringType;
                case NUMBER -> DataTypes.LongType;
                case FLAG -> DataTypes.BooleanType;
                case TIME -> DataTypes.TimestampType;
                case TEXTS -> DataTypes.createArrayType(DataTypes.StringType);
              });
    }
    schema = schema.add("server", DataTypes.StringType);
    String folder = new Path(new Path(sweep), table.folder()).toString();
    try {
      Path path = new Path(folder);
      if (!path.getFileSystem(session.sparkContext().hadoopConfiguration()).exists(path)) {
        return session.createDataFrame(List.<Row>of(), schema);
      }
    } catch (IOException broken) {
      throw new UncheckedIOException(broken);
    }
    return session.read().schema(schema).parquet(folder);
  }

  /** Rights with who has them, each of an account once, of servers that are there as a whole. */
  private Dataset<Row> held() {
    return table(Table.RIGHTS)
        .join(table(Table.CONTENTS), names("server", "right_id"))
        .join(table(Table.SPANS).select("server", "span", "alike"), names("server", "span"))
        .join(table(Table.ACCOUNTS).drop("holdings"), names("server", "alike"))
        .join(table(Table.SERVERS).select("server"), names("server"));
  }

  /** As what is held, but by those who come to a server over another one. */
  private Dataset<Row> arriving() {
    return table(Table.ARRIVALS)
        .drop("across")
        .withColumn("privilege", lit("select"))
        .withColumn("grantable", lit(false))
        .join(table(Table.SERVERS).select("server"), names("server"));
  }

  /** What is held on the server itself, and what is read over others. */
  private Dataset<Row> everything() {
    Dataset<Row> held =
        held()
            .withColumn("from_server", lit(null).cast(DataTypes.StringType))
            .withColumn("login", lit(null).cast(DataTypes.StringType))
            .withColumn("certain", lit(null).cast(DataTypes.BooleanType));
    Dataset<Row> arriving = arriving();
    return held.select(cols(arriving.columns())).union(arriving);
  }

  private static String[] names(String... names) {
    return names;
  }

  private Dataset<Row> who(Question.Who asked) {
    Dataset<Row> held =
        everything()
            .filter(col("privilege").equalTo(asked.privilege().toLowerCase(Locale.ROOT)))
            .filter(like(col("server"), asked.server()))
            .filter(like(col("object"), asked.object()));
    if (!asked.inEveryState()) {
      held = held.filter(col("state").isInCollection(WORKS).and(col("cannot_log_in").isNull()));
    }
    if (!asked.label().isEmpty()) {
      Dataset<Row> labels =
          table(Table.LABELS)
              .filter(lower(col("label")).equalTo(asked.label().toLowerCase(Locale.ROOT)))
              .select("server", "object", "column_name")
              .distinct();
      Column reached =
          col("column_name")
              .isNull()
              .or(col("column_names").isNull())
              .or(array_contains(col("column_names"), col("column_name")));
      held =
          held.join(labels, names("server", "object"))
              .filter(reached)
              .drop("column_name")
              .distinct();
    }
    return rights(held);
  }

  /** By any of their names; an account leads to its person's others. */
  private Dataset<Row> person(Question.Person asked) {
    String name = asked.key().toLowerCase(Locale.ROOT);
    Column isNamed = lower(col("account")).equalTo(name);
    List<String> people =
        table(Table.ACCOUNTS)
            .filter(
                isNamed
                    .or(lower(col("person")).equalTo(name))
                    .or(lower(col("person_name")).equalTo(name)))
            .filter(col("person").isNotNull())
            .select("person")
            .distinct()
            .as(Encoders.STRING())
            .collectAsList();
    return rights(everything().filter(isNamed.or(col("person").isInCollection(people))));
  }

  private static Dataset<Row> rights(Dataset<Row> held) {
    return held.orderBy(
        coalesce(col("person"), col("account")),
        col("server"),
        col("account"),
        col("from_server"),
        col("object"),
        col("privilege"),
        col("state"));
  }

  private Dataset<Row> changed(Question.Changed asked) {
    return table(Table.CHANGES)
        .filter(col("surveyed").geq(timestamp_micros(lit(Changes.micros(asked.since())))))
        .orderBy("surveyed", "server", "account", "object", "privilege");
  }

  /** A name with {@code *} and {@code ?}; an empty one is any. */
  private static Column like(Column column, String typed) {
    if (typed.isEmpty()) {
      return lit(true);
    }
    String pattern =
        typed
            .replace("\\", "\\\\")
            .replace("%", "\\%")
            .replace("_", "\\_")
            .replace('*', '%')
            .replace('?', '_');
    return column.ilike(pattern);
  }
}
