package fiador.standin.estate;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** The server, a database, a schema, a table or a view; also a label, which is in nothing. */
public final class Thing {
  /** What a label is called among kinds. */
  public static final String LABEL = "label";

  private final String kind;
  private final String name;
  private final @Nullable Thing parent;
  private final Map<String, Thing> inside = new LinkedHashMap<>();
  private final Map<String, String> columns = new LinkedHashMap<>();
  private Principal owner;
  private @Nullable String kept;
  private @Nullable Far far;
  private final Set<String> labels = new TreeSet<>();
  private final Map<String, Set<String>> columnLabels = new LinkedHashMap<>();
  private final Veil veil = new Veil();
  private boolean sealed;
  private @Nullable String text;
  private boolean asAsker;
  private List<Thing> reads = List.of();

  /**
   * Where a table's rows are that another server has.
   *
   * @param place which server
   * @param names the names on the way to it there
   */
  public record Far(Place place, List<String> names) {}

  Thing(String kind, String name, @Nullable Thing parent, Principal owner) {
    this.kind = kind;
    this.name = name;
    this.parent = parent;
    this.owner = owner;
  }

  /** What it is, as a sheet calls it. */
  public String kind() {
    return kind;
  }

  /** Its name in its container. */
  public String name() {
    return name;
  }

  /** What it is in; null for the server. */
  public @Nullable Thing parent() {
    return parent;
  }

  /** Who owns it. */
  public Principal owner() {
    return owner;
  }

  /** Gives it to another. */
  public void owner(Principal other) {
    this.owner = other;
  }

  /** What is in it. */
  public Collection<Thing> inside() {
    return inside.values();
  }

  /** What is in it of that name. */
  public @Nullable Thing inside(String wanted) {
    return inside.get(wanted);
  }

  void put(Thing thing) {
    inside.put(thing.name, thing);
  }

  void remove(Thing thing) {
    inside.remove(thing.name);
  }

  /** Its columns, and the type of each. */
  public Map<String, String> columns() {
    return columns;
  }

  /** The column as it is named, whatever the case it was asked for in; null for none. */
  public @Nullable String column(String asked) {
    return columns.containsKey(asked)
        ? asked
        : columns.keySet().stream()
            .filter(name -> name.equalsIgnoreCase(asked))
            .findFirst()
            .orElse(null);
  }

  /** Under which name its rows are kept; null where it has none. */
  public @Nullable String kept() {
    return kept;
  }

  /** Says where its rows are. */
  public void kept(String under) {
    this.kept = under;
  }

  /** Where its rows are, if another server has them; null where not. */
  public @Nullable Far far() {
    return far;
  }

  /** Makes it a table whose rows are there. */
  public void far(Far there) {
    this.far = there;
  }

  /** What lies over it for all but administrators. */
  public Veil veil() {
    return veil;
  }

  /** Whether it opens to nobody by a power. */
  public boolean sealed() {
    return sealed;
  }

  /** Seals it, or takes the seal away. */
  public void seal(boolean shut) {
    this.sealed = shut;
  }

  /**
   * The labels it carries by itself.
   *
   * @param column of which column; null for those of the whole
   */
  public Set<String> labels(@Nullable String column) {
    return column == null ? labels : columnLabels.getOrDefault(column, Set.of());
  }

  /** Says that it, or a column of it, carries a label. */
  public void putLabel(String label, @Nullable String column) {
    Set<String> all =
        column == null ? labels : columnLabels.computeIfAbsent(column, first -> new TreeSet<>());
    all.add(label);
  }

  /** Says that it does not any more. */
  public void takeLabel(String label, @Nullable String column) {
    labels(column).remove(label);
  }

  /** Whether it, or something that it is in, is sealed. */
  boolean isInWhatIsSealed() {
    return sealed || parent != null && parent.isInWhatIsSealed();
  }

  /** What a view shows; null for all else. */
  public @Nullable String text() {
    return text;
  }

  /** Whether a view reads with the rights of whoever asks. */
  public boolean asAsker() {
    return asAsker;
  }

  /** Makes it a view that reads these. */
  public void shows(String query, boolean readsAsAsker, List<Thing> read) {
    this.text = query;
    this.asAsker = readsAsAsker;
    this.reads = List.copyOf(read);
  }

  /** What a view names. */
  public List<Thing> reads() {
    return reads;
  }

  /** The names on the way to it, from the outermost on; none for the server. */
  public List<String> names() {
    List<String> names = new ArrayList<>();
    for (Thing at = this; at.parent != null; at = at.parent) {
      names.add(0, at.name);
    }
    return names;
  }

  /** The nearest container of that kind, itself included; null for none. */
  public @Nullable Thing enclosing(String wanted) {
    Thing at = this;
    while (at != null && !at.kind.equals(wanted)) {
      at = at.parent;
    }
    return at;
  }

  /** The names on the way to it, with dots. */
  public String path() {
    return parent == null
        ? kind.equals(LABEL) ? name : "the server"
        : parent.parent == null ? name : parent.path() + "." + name;
  }

  @Override
  public String toString() {
    return kind + " " + path();
  }
}
