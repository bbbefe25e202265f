package fiador.houses;

import fiador.estate.EstateBuilder;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.grants.LaterGrant;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.objects.Object2LongOpenHashMap;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Grants, denials, and what new things come with. */
final class Given {
  /** All that exist on the thing. */
  private static final long ALL = -1;

  /** What the kind says where something is given on all that carries the label of the name. */
  private static final String LABEL = "label";

  private final AccessBuilder builder;
  private final EstateBuilder estate;
  private final HouseSheet sheet;
  private final People people;
  private final Things things;
  private final Labels labels;

  /** Else what is on a label is about something that is not known, and no row is believed. */
  private final boolean readsLabels;

  private final boolean reachesDown;
  private final boolean denialsReachDown;
  private final Object2LongOpenHashMap<String> words = new Object2LongOpenHashMap<>();
  private final IntArrayList lastColumns = new IntArrayList();
  private final Map<Creation, List<LaterGrant.Given>> created = new LinkedHashMap<>();
  private @Nullable Row last;
  private @Nullable Row lastOnColumns;

  /** One grant or denial, but for its columns. */
  private record Row(boolean grant, int to, int node, Terms terms, int grantor) {
    boolean isSame(Row other) {
      return grant == other.grant
          && to == other.to
          && node == other.node
          && grantor == other.grantor
          && terms.equals(other.terms);
    }

    /** The same with another's privileges too, where nothing else differs; null where it does. */
    @Nullable Row with(Row other) {
      boolean alike =
          grant == other.grant
              && to == other.to
              && node == other.node
              && grantor == other.grantor
              && terms.covers() == other.terms.covers()
              && terms.until() == other.terms.until();
      return !alike
          ? null
          : new Row(
              grant,
              to,
              node,
              new Terms(
                  terms.privileges() | other.terms.privileges(),
                  terms.grantable() | other.terms.grantable(),
                  terms.covers(),
                  terms.until()),
              grantor);
    }
  }

  private record Creation(int creator, int in, NodeKind kind) {}

  Given(AccessBuilder builder, HouseSheet sheet, People people, Things things, Labels labels) {
    this.builder = builder;
    this.estate = builder.estate();
    this.sheet = sheet;
    this.people = people;
    this.things = things;
    this.labels = labels;
    this.readsLabels = !sheet.reading().of(FactSort.LABELS).isEmpty();
    this.reachesDown = sheet.rules().has(HouseFact.SCHEMA_GRANTS_REACH_DOWN);
    this.denialsReachDown = reachesDown && !sheet.rules().has(HouseFact.DENIALS_STAY);
    for (Privilege privilege : Privilege.values()) {
      words.put(privilege.text(), privilege.bit());
    }
    sheet
        .reading()
        .words()
        .forEach(
            (word, meant) -> {
              long bits = meant.isEmpty() ? ALL : 0;
              for (Privilege privilege : meant) {
                bits |= privilege.bit();
              }
              words.put(word, bits);
            });
    sheet.reading().ignored().forEach(word -> words.put(word, 0L));
  }

  void grant(BoundSource source, SourceRow row, boolean grant) throws BadRowException {
    int to = people.find(source, "to", row);
    if (readsLabels && LABEL.equals(source.some("kind", row))) {
      byLabel(source, row, grant, to);
      return;
    }
    int node = things.find(source, row);
    long privileges = privileges(source, row, sheet.rules().privilegesOn(estate.kind(node)));
    if (privileges == 0) {
      return;
    }
    boolean grantable = source.flag("grantable", false, row);
    Terms terms =
        new Terms(
            privileges,
            grantable ? privileges : 0,
            covers(source, row, node, grant),
            end(source, row));
    Row made = new Row(grant, to, node, terms, people.optional(source, "grantor", row));
    IntArrayList columns = columns(source, row, node);
    if (columns == null) {
      add(made);
    } else {
      addOnColumns(made, columns);
    }
  }

  private void byLabel(BoundSource source, SourceRow row, boolean grant, int to)
      throws BadRowException {
    long privileges = privileges(source, row, ALL);
    if (privileges != 0) {
      labels.give(
          new Labels.ByLabel(
              grant,
              to,
              estate.names().intern(source.needed("name", row)),
              source.flag("grantable", false, row),
              end(source, row),
              people.optional(source, "grantor", row)),
          privileges);
    }
  }

  private static long end(BoundSource source, SourceRow row) throws BadRowException {
    Instant until = People.time(source, "until", row);
    return until == null ? Terms.FOREVER : until.getEpochSecond();
  }

  /** Rows that follow each other and differ in their privileges only are one. */
  private void add(Row made) {
    Row joined = last == null ? null : last.with(made);
    if (joined == null) {
      write(last, ColumnSets.WHOLE);
    }
    last = joined == null ? made : joined;
  }

  /** Rows that follow each other and differ in their columns only are one, too. */
  private void addOnColumns(Row made, IntArrayList columns) {
    if (lastOnColumns != null && !lastOnColumns.isSame(made)) {
      writeOnColumns();
    }
    lastOnColumns = made;
    lastColumns.addAll(columns);
  }

  private void writeOnColumns() {
    int[] sorted = lastColumns.toIntArray();
    Arrays.sort(sorted);
    write(lastOnColumns, builder.columnSets().intern(distinct(sorted)));
    lastOnColumns = null;
    lastColumns.clear();
  }

  private static int[] distinct(int[] sorted) {
    int kept = 0;
    for (int i = 0; i < sorted.length; i++) {
      if (i == 0 || sorted[i] != sorted[i - 1]) {
        sorted[kept++] = sorted[i];
      }
    }
    return Arrays.copyOf(sorted, kept);
  }

  private void write(@Nullable Row row, int columns) {
    if (row == null) {
      return;
    }
    if (row.grant()) {
      builder.grant(row.to(), row.node(), row.terms(), columns, row.grantor());
    } else {
      builder.denial(row.to(), row.node(), row.terms(), columns);
    }
  }

  /**
   * @param exist what all of them are
   */
  private long privileges(BoundSource source, SourceRow row, long exist) throws BadRowException {
    String written = source.needed("privilege", row);
    if (written.indexOf(',') < 0) {
      long bits = word(source, written);
      return bits == ALL ? exist : bits;
    }
    long found = 0;
    for (String word : written.split(",", -1)) {
      long bits = word(source, word);
      found |= bits == ALL ? exist : bits;
    }
    return found;
  }

  private long word(BoundSource source, String written) throws BadRowException {
    if (words.containsKey(written)) {
      return words.getLong(written);
    }
    String folded = written.strip().toLowerCase(Locale.ROOT);
    if (!words.containsKey(folded)) {
      throw source.bad(
          "privilege",
          "\"" + written + "\" is no privilege the sheet knows; add it to words or to ignored");
    }
    // the next rows write it alike
    words.put(written, words.getLong(folded));
    return words.getLong(folded);
  }

  private int covers(BoundSource source, SourceRow row, int node, boolean grant)
      throws BadRowException {
    String written = source.some("covers", row);
    if (written == null || written.equals("inside")) {
      boolean inside = written != null || (grant ? reachesDown : denialsReachDown);
      return inside ? estate.kind(node).inside() : 0;
    }
    int bits = 0;
    for (String word : written.split(",", -1)) {
      NodeKind kind = NodeKind.named(word.strip());
      if (!word.strip().equals("nothing") && kind == null) {
        throw source.bad("covers", "\"" + word.strip() + "\" is no kind of thing");
      }
      bits |= kind == null ? 0 : kind.bit();
    }
    return bits;
  }

  /** The ordinals of the columns it is about; null where it is about the whole. */
  private @Nullable IntArrayList columns(BoundSource source, SourceRow row, int node)
      throws BadRowException {
    String name = source.some("column", row);
    String numbers = source.some("columns_by_number", row);
    if (name == null && numbers == null) {
      return null;
    }
    IntArrayList found = new IntArrayList();
    if (name != null) {
      found.add(things.column(source, node, name));
    }
    String digits = numbers == null ? "" : numbers.replaceAll("\\D+", " ").strip();
    for (String number : digits.isEmpty() ? new String[0] : digits.split(" ", -1)) {
      int ordinal = number.length() > 6 ? Integer.MAX_VALUE : Integer.parseInt(number);
      if (ordinal >= estate.columns(node)) {
        throw source.bad("columns_by_number", "it has no column number " + number + ", from 0");
      }
      found.add(ordinal);
    }
    if (found.isEmpty()) {
      throw source.bad("columns_by_number", "\"" + numbers + "\" names no column");
    }
    return found;
  }

  void later(BoundSource source, SourceRow row) throws BadRowException {
    int to = people.find(source, "to", row);
    int in = things.containerOf(source, "database", "schema", row);
    String word = source.needed("kind", row);
    NodeKind kind = NodeKind.named(word);
    if (kind == null) {
      throw source.bad("kind", "\"" + word + "\" is no kind of thing");
    }
    long bits = privileges(source, row, sheet.rules().privilegesOn(kind));
    long grantable = source.flag("grantable", false, row) ? bits : 0;
    created
        .computeIfAbsent(
            new Creation(people.optional(source, "creator", row), in, kind),
            fresh -> new ArrayList<>())
        .add(new LaterGrant.Given(to, bits, grantable));
  }

  /** After the last row of all. */
  void end() {
    labels.end();
    write(last, ColumnSets.WHOLE);
    last = null;
    if (lastOnColumns != null) {
      writeOnColumns();
    }
    created.forEach(
        (of, given) ->
            builder.later(
                new LaterGrant(of.creator(), of.in(), of.kind(), false, List.copyOf(given))));
  }
}
