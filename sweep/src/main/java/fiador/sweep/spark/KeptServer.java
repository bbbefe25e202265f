package fiador.sweep.spark;

import fiador.sweep.estate.Before;
import fiador.sweep.estate.Right;
import fiador.sweep.tables.Table;
import java.io.IOException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.Path;
import org.apache.parquet.example.data.Group;
import org.jspecify.annotations.Nullable;

/** What files of tables say of a server. */
final class KeptServer implements Before {
  private final Function<Table, Path> places;
  private final Configuration configuration;
  private final Instant surveyed;
  private final Map<String, Long> alike = new HashMap<>();
  private final Map<Long, Map<String, Set<String>>> marks = new HashMap<>();
  private final Map<Long, String> markOfSpan = new HashMap<>();

  /**
   * @param places where the file of a table is, or the folder of its files
   * @param surveyed when the survey of it was taken
   */
  KeptServer(Function<Table, Path> places, Instant surveyed, Configuration configuration)
      throws IOException {
    this.places = places;
    this.surveyed = surveyed;
    this.configuration = configuration;
    each(Table.ACCOUNTS, row -> alike.put(text(row, "account"), row.getLong("alike", 0)));
    each(
        Table.SPANS,
        row -> {
          String mark = text(row, "mark");
          marks
              .computeIfAbsent(row.getLong("alike", 0), none -> new LinkedHashMap<>())
              .computeIfAbsent(text(row, "container"), none -> new HashSet<>())
              .add(mark);
          markOfSpan.put(row.getLong("span", 0), mark);
        });
  }

  /** What is kept of a server; null where nothing is. */
  static @Nullable KeptServer of(Store store, String server) throws IOException {
    ServerRow row = ServerRow.of(store, server);
    Object surveyed = row == null ? null : row.values()[ServerRow.at("surveyed")];
    return surveyed == null
        ? null
        : new KeptServer(
            table -> store.of(table, server),
            Instant.EPOCH.plus((Long) surveyed, ChronoUnit.MICROS),
            store.configuration());
  }

  @Override
  public Instant surveyed() {
    return surveyed;
  }

  @Override
  public Set<String> accounts() {
    return alike.keySet();
  }

  @Override
  public Map<String, Set<String>> marks(String account) {
    Long group = alike.get(account);
    return group == null ? Map.of() : marks.getOrDefault(group, Map.of());
  }

  @Override
  public Map<String, List<Right>> rights(Set<String> wanted) throws IOException {
    Map<Long, List<String>> marksOf = new HashMap<>();
    each(
        Table.CONTENTS,
        row -> {
          String mark = markOfSpan.get(row.getLong("span", 0));
          if (mark != null && wanted.contains(mark)) {
            marksOf
                .computeIfAbsent(row.getLong("right_id", 0), none -> new ArrayList<>(2))
                .add(mark);
          }
        });
    Map<String, List<Right>> found = new HashMap<>();
    each(
        Table.RIGHTS,
        row -> {
          List<String> own = marksOf.get(row.getLong("right_id", 0));
          if (own != null) {
            Right right = right(row);
            own.forEach(mark -> found.computeIfAbsent(mark, none -> new ArrayList<>()).add(right));
          }
        });
    return found;
  }

  private static Right right(Group row) {
    return new Right(
        text(row, "privilege"),
        text(row, "kind"),
        text(row, "object"),
        texts(row, "column_names"),
        text(row, "state"),
        row.getBoolean("grantable", 0),
        row.getFieldRepetitionCount("rows_seen") == 0 ? null : text(row, "rows_seen"),
        texts(row, "masked_columns"));
  }

  private static String text(Group row, String field) {
    return row.getString(field, 0);
  }

  private static @Nullable List<String> texts(Group row, String field) {
    if (row.getFieldRepetitionCount(field) == 0) {
      return null;
    }
    Group list = row.getGroup(field, 0);
    List<String> texts = new ArrayList<>();
    for (int at = 0; at < list.getFieldRepetitionCount("list"); at++) {
      texts.add(list.getGroup("list", at).getString("element", 0));
    }
    return texts;
  }

  private void each(Table table, ParquetRows.Row to) throws IOException {
    ParquetRows.each(places.apply(table), configuration, to);
  }
}
