package fiador.houses;

import fiador.estate.ColumnType;
import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.grants.AccessBuilder;
import fiador.grants.Sights;
import it.unimi.dsi.fastutil.ints.Int2ObjectLinkedOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.longs.Long2IntOpenHashMap;
import it.unimi.dsi.fastutil.longs.Long2ObjectOpenHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Databases, schemas, what lives in them, and where to find it by name. */
public final class Things {
  private static final String PROCEDURE = "procedure";
  private static final String RELATION = "relation";

  /** Which names can be there side by side. */
  private enum Space {
    CONTAINER,
    RELATION,
    SEQUENCE,
    ROUTINE,
    PROCEDURE
  }

  private final AccessBuilder builder;
  private final EstateBuilder estate;
  private final HouseSheet sheet;
  private final People people;
  private final Long2IntOpenHashMap nodes = new Long2IntOpenHashMap();
  private final Long2ObjectOpenHashMap<Columns> columns = new Long2ObjectOpenHashMap<>();
  private final Map<Integer, String> texts = new Int2ObjectLinkedOpenHashMap<>();
  private String lastDatabase = "";
  private String lastSchema = "";
  private int lastContainer = None.NODE;

  /** By their interned names, which take less than texts while their tables are not read yet. */
  private record Columns(IntArrayList names, IntArrayList types) {
    Columns() {
      this(new IntArrayList(), new IntArrayList());
    }
  }

  Things(AccessBuilder builder, HouseSheet sheet, People people) {
    this.builder = builder;
    this.estate = builder.estate();
    this.sheet = sheet;
    this.people = people;
    nodes.defaultReturnValue(None.NODE);
  }

  void container(BoundSource source, SourceRow row) throws BadRowException {
    String word = source.needed("kind", row);
    NodeKind kind = NodeKind.named(word);
    if (kind != NodeKind.DATABASE && kind != NodeKind.SCHEMA) {
      throw source.bad("kind", "\"" + word + "\" is neither database nor schema");
    }
    String name = source.needed("name", row);
    String database = kind == NodeKind.SCHEMA ? source.some("database", row) : null;
    int in = database == null ? 0 : child(0, Space.CONTAINER, database);
    if (in < 0) {
      throw new UnknownException(
          source.bad("database", "there is no database \"" + database + "\""));
    }
    if (child(in, Space.CONTAINER, name) >= 0) {
      throw source.bad("name", "there is a " + word + " \"" + name + "\" already");
    }
    int node = estate.node(in, kind, name, people.optional(source, "owner", row));
    remember(in, Space.CONTAINER, name, node);
    if (sheet.reading().systemSchemas().contains(name)) {
      estate.fact(node, NodeFact.SYSTEM);
    }
    if (source.flag("sealed", false, row)) {
      if (sheet.rules().letsIntoSealed(kind) == 0) {
        throw source.bad(
            "sealed", "no gate of the sheet says what lets people into a sealed " + word);
      }
      estate.fact(node, NodeFact.SEALED);
    }
  }

  void column(BoundSource source, SourceRow row) throws BadRowException {
    int container = containerOf(source, "database", "schema", row);
    String name = source.needed("name", row);
    String column = source.needed("column", row);
    Columns of =
        columns.computeIfAbsent(key(container, Space.RELATION, name), fresh -> new Columns());
    int id = estate.names().intern(column);
    if (of.names().contains(id)) {
      throw source.bad("column", "there is a column \"" + column + "\" in it already");
    }
    of.names().add(id);
    String type = source.some("type", row);
    of.types().add((type == null ? ColumnType.OTHER : ColumnType.named(type)).ordinal());
  }

  void object(BoundSource source, SourceRow row) throws BadRowException {
    int container = containerOf(source, "database", "schema", row);
    String word = source.needed("kind", row);
    NodeKind kind = word.equals(PROCEDURE) ? NodeKind.ROUTINE : NodeKind.named(word);
    if (kind == null || !kind.isObject()) {
      throw source.bad("kind", "\"" + word + "\" is no kind of thing that lives in schemas");
    }
    String name = source.needed("name", row);
    Space space = space(word, kind);
    if (child(container, space, name) >= 0) {
      throw source.bad("name", "there is a " + word + " \"" + name + "\" there already");
    }
    String arguments = source.get("arguments", row);
    String shown =
        kind == NodeKind.ROUTINE ? name + "(" + (arguments == null ? "" : arguments) + ")" : name;
    int node = estate.node(container, kind, shown, people.optional(source, "owner", row));
    remember(container, space, name, node);
    if (word.equals(PROCEDURE)) {
      estate.fact(node, NodeFact.PROCEDURE);
    }
    readsAs(source, row, node);
    addColumns(container, name, space == Space.RELATION);
    String text = source.some("text", row);
    if (text != null) {
      texts.put(node, text);
    }
  }

  private void readsAs(BoundSource source, SourceRow row, int node) throws BadRowException {
    String as = source.some("reads_as", row);
    if (as != null && !as.equals("owner") && !as.equals("asker")) {
      throw source.bad("reads_as", "\"" + as + "\" is neither owner nor asker");
    }
    if ("asker".equals(as)) {
      estate.fact(node, NodeFact.INVOKER);
    }
  }

  private void addColumns(int container, String name, boolean relation) {
    Columns of = relation ? columns.remove(key(container, Space.RELATION, name)) : null;
    boolean system = estate.is(container, NodeFact.SYSTEM);
    for (int i = 0; of != null && i < of.names().size(); i++) {
      estate.column(of.names().getInt(i));
      ColumnType type = ColumnType.at(of.types().getInt(i));
      if (!system && type != ColumnType.OTHER) {
        estate.type(type);
      }
    }
  }

  private static Space space(String word, NodeKind kind) {
    return switch (kind) {
      case SEQUENCE -> Space.SEQUENCE;
      case ROUTINE -> word.equals(PROCEDURE) ? Space.PROCEDURE : Space.ROUTINE;
      default -> Space.RELATION;
    };
  }

  /** The views that have a text, by node. */
  Map<Integer, String> texts() {
    return texts;
  }

  /** The schema in which a row's thing is, or the database, or the server. */
  int containerOf(BoundSource source, String databaseField, String schemaField, SourceRow row)
      throws BadRowException {
    String database = source.some(databaseField, row);
    String schema = source.some(schemaField, row);
    String inDatabase = database == null ? "" : database;
    String inSchema = schema == null ? "" : schema;
    if (lastContainer >= 0 && lastSchema.equals(inSchema) && lastDatabase.equals(inDatabase)) {
      return lastContainer;
    }
    int at = 0;
    if (database != null) {
      at = child(at, Space.CONTAINER, database);
      if (at < 0) {
        throw new UnknownException(
            source.bad(databaseField, "there is no database \"" + database + "\""));
      }
    }
    if (schema != null) {
      at = child(at, Space.CONTAINER, schema);
      if (at < 0) {
        throw new UnknownException(
            source.bad(schemaField, "there is no schema \"" + schema + "\""));
      }
    }
    lastDatabase = inDatabase;
    lastSchema = inSchema;
    lastContainer = at;
    return at;
  }

  /** A rule that nothing was noted of is somebody else's: what it shows is not known. */
  void policies(BoundSource source, SourceRow row) throws BadRowException {
    int container = containerOf(source, "database", "schema", row);
    String name = source.needed("name", row);
    int node = relation(container, null, name);
    if (node < 0) {
      throw new UnknownException(source.bad("name", "there is no table \"" + name + "\" there"));
    }
    String note = source.some("note", row);
    boolean asNoted = note != null && source.flag("as_noted", false, row);
    builder.sights().kept(node, new Sights.Kept(node, note == null ? "" : note, asNoted));
  }

  /** What a row's grant is on. */
  int find(BoundSource source, SourceRow row) throws BadRowException {
    String word = source.some("kind", row);
    int container = containerOf(source, "database", "schema", row);
    String name = source.some("name", row);
    if (name == null) {
      return container(source, word, container);
    }
    int node = word == null ? relation(container, name) : named(source, word, container, name);
    if (node < 0) {
      throw new UnknownException(
          source.bad(
              "name",
              "there is no "
                  + (word == null ? "table or view" : word)
                  + " \""
                  + name
                  + "\" there"));
    }
    return node;
  }

  /** The ordinal of a column of a thing. */
  int column(BoundSource source, int node, String name) throws BadRowException {
    int id = estate.names().find(name);
    int ordinal = id < 0 ? None.COLUMN : estate.columnOrdinal(node, id);
    if (ordinal < 0) {
      throw new UnknownException(source.bad("column", "there is no column \"" + name + "\" in it"));
    }
    return ordinal;
  }

  private int container(BoundSource source, @Nullable String word, int container)
      throws BadRowException {
    NodeKind kind = estate.kind(container);
    if (word != null && !word.equals(kind.text())) {
      throw source.bad(
          "kind", "it is said to be on a " + word + ", and names a " + kind.text() + " only");
    }
    return container;
  }

  private int named(BoundSource source, String word, int container, String name)
      throws BadRowException {
    NodeKind kind = word.equals(PROCEDURE) ? NodeKind.ROUTINE : NodeKind.named(word);
    if (word.equals(RELATION)) {
      return relation(container, name);
    }
    if (kind == null) {
      throw source.bad("kind", "\"" + word + "\" is no kind of thing");
    }
    return child(container, kind.isObject() ? space(word, kind) : Space.CONTAINER, name);
  }

  private int relation(int container, String name) {
    int node = child(container, Space.RELATION, name);
    return node >= 0 ? node : child(container, Space.SEQUENCE, name);
  }

  /** A table or view in a database that is named too; -1 where there is none. */
  public int relation(String database, String schema, String name) {
    int around = child(0, Space.CONTAINER, database);
    int in = around < 0 ? None.NODE : child(around, Space.CONTAINER, schema);
    return in < 0 ? None.NODE : child(in, Space.RELATION, name);
  }

  /** A table or view by its place and name; -1 where there is none. */
  public int relation(int container, @Nullable String schema, String name) {
    int in = container;
    if (schema != null) {
      int around = estate.kind(container) == NodeKind.SCHEMA ? estate.parent(container) : container;
      in = child(around, Space.CONTAINER, schema);
    }
    return in < 0 ? None.NODE : child(in, Space.RELATION, name);
  }

  /** The names of a thing's columns. */
  public List<String> columnNames(int node) {
    return estate.columnNames(node);
  }

  private int child(int in, Space space, String name) {
    int id = estate.names().find(name);
    return id < 0 ? None.NODE : nodes.get(key(in, space, id));
  }

  private void remember(int in, Space space, String name, int node) {
    nodes.put(key(in, space, name), node);
  }

  private long key(int in, Space space, String name) {
    return key(in, space, estate.names().intern(name));
  }

  private static long key(int in, Space space, int nameId) {
    return ((long) in * Space.values().length + space.ordinal()) << 32 | nameId;
  }
}
