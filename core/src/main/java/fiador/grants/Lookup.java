package fiador.grants;

import fiador.estate.DottedName;
import fiador.estate.DottedName.Part;
import fiador.estate.Nearest;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.estate.Tree;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntPredicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * Finds users, roles and nodes by the names people type: exactly, else folded as the server folds
 * unquoted names, else ignoring case where that leaves one.
 */
public final class Lookup {
  private final Access access;
  private final Tree tree;

  /** For that estate. */
  public Lookup(Access access) {
    this.access = access;
    this.tree = access.tree();
  }

  /**
   * What was found.
   *
   * @param id a principal or node id, -1 when nothing was found
   * @param column the ordinal of a column of the node, or -1
   * @param problem what is wrong, with the nearest names; null when found
   * @param unknown whether it may be there all the same, where the survey did not look
   */
  public record Found(int id, int column, String problem, boolean unknown) {
    /** Found, or not there. */
    public Found(int id, int column, String problem) {
      this(id, column, problem, false);
    }

    static Found at(int id) {
      return new Found(id, None.COLUMN, null);
    }

    static Found not(String problem) {
      return new Found(None.NODE, None.COLUMN, problem);
    }

    /** Whether it was found. */
    public boolean ok() {
      return problem == null;
    }
  }

  /** A user or role. Cost: all principals. */
  public Found principal(String name) {
    Principals people = access.principals();
    boolean quoted = name.length() > 2 && name.startsWith("\"") && name.endsWith("\"");
    String bare = quoted ? name.substring(1, name.length() - 1).replace("\"\"", "\"") : name;
    for (String tried : quoted ? List.of(bare) : List.of(name, access.rules().fold(name))) {
      int id = people.named(tried);
      if (id >= 0) {
        return Found.at(id);
      }
    }
    if (access.accounts() != null && !bare.contains("@")) {
      Found account = account(bare);
      if (account != null) {
        return account;
      }
    }
    int[] similar =
        IntStream.range(0, people.size())
            .filter(id -> people.name(id).equalsIgnoreCase(bare))
            .toArray();
    if (similar.length == 1 && !quoted) {
      return Found.at(similar[0]);
    }
    return Found.not(
        "there is no user or role "
            + name
            + " on "
            + access.about().server()
            + Nearest.hint(
                name, IntStream.range(1, people.size()).mapToObj(id -> typed(people.name(id)))));
  }

  /** The only account of that name; null if there is none. */
  private Found account(String name) {
    Principals people = access.principals();
    int[] same =
        IntStream.range(0, people.size())
            .filter(people::isUser)
            .filter(id -> AccountName.of(people.name(id)).user().equals(name))
            .toArray();
    if (same.length < 2) {
      return same.length == 0 ? null : Found.at(same[0]);
    }
    return Found.not(
        name
            + " may mean any of "
            + IntStream.of(same).limit(5).mapToObj(people::name).collect(Collectors.joining(", "))
            + "; write the host too");
  }

  /**
   * A node, or a column of one. The database may be left out where one fits, and a routine's
   * arguments too.
   *
   * @param privileges only nodes on which one of these exists are meant; 0 for any
   * @param withColumn whether the last part may be a column
   */
  public Found node(String path, long privileges, boolean withColumn) {
    List<Part> parts;
    try {
      parts = DottedName.split(path);
    } catch (IllegalArgumentException malformed) {
      return Found.not(malformed.getMessage());
    }
    IntPredicate fits =
        node -> privileges == 0 || (access.rules().privilegesOn(tree.kind(node)) & privileges) != 0;
    IntArrayList found = matches(parts, fits);
    if (found.size() == 1) {
      return Found.at(found.getInt(0));
    }
    if (found.isEmpty() && parts.size() == 1 && path.equalsIgnoreCase(tree.name(0))) {
      return Found.at(0);
    }
    if (found.isEmpty() && withColumn && parts.size() > 1) {
      Found column = column(parts, fits);
      if (column != null) {
        return column;
      }
    }
    return found.isEmpty() ? missing(path, parts) : ambiguous(path, found);
  }

  /**
   * A node, or a column of one, whose path ends in these parts in any letters: for people who leave
   * out the schema. Not for what has to mean the same tomorrow. Cost: all nodes.
   *
   * @param privileges as for {@link #node}
   * @param withColumn as for {@link #node}
   * @return what was found, or that several may be meant; empty where nothing is called so
   */
  public Optional<Found> anywhere(String path, long privileges, boolean withColumn) {
    List<Part> parts;
    try {
      parts = DottedName.split(path);
    } catch (IllegalArgumentException malformed) {
      return Optional.of(Found.not(malformed.getMessage()));
    }
    IntArrayList found = new IntArrayList();
    List<Part> ofColumn = withColumn ? parts.subList(0, parts.size() - 1) : List.of();
    String last = parts.get(parts.size() - 1).text();
    int column = None.COLUMN;
    for (int node = 1; node < tree.size(); node++) {
      NodeKind kind = tree.kind(node);
      boolean fits =
          privileges == 0 ? kind.isObject() : (access.rules().privilegesOn(kind) & privileges) != 0;
      if (!fits || tree.isSystem(node)) {
        continue;
      }
      if (endsIn(node, parts)) {
        found.add(node);
      } else if (!ofColumn.isEmpty() && endsIn(node, ofColumn) && columnLike(node, last) >= 0) {
        found.add(node);
        column = columnLike(node, last);
      }
    }
    if (found.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        found.size() == 1 ? new Found(found.getInt(0), column, null) : ambiguous(path, found));
  }

  private boolean endsIn(int node, List<Part> parts) {
    int at = node;
    for (int i = parts.size() - 1; i >= 0; i--) {
      if (at <= 0) {
        return false;
      }
      Part part = parts.get(i);
      String name = tree.name(at);
      boolean routine = tree.kind(at) == NodeKind.ROUTINE && part.text().indexOf('(') < 0;
      String known = routine ? DottedName.withoutArguments(name) : name;
      if (!(part.quoted() ? known.equals(part.text()) : known.equalsIgnoreCase(part.text()))) {
        return false;
      }
      at = tree.parent(at);
    }
    return true;
  }

  private int columnLike(int node, String name) {
    for (int column = 0; column < tree.columns(node); column++) {
      if (tree.column(node, column).equalsIgnoreCase(name)) {
        return column;
      }
    }
    return None.COLUMN;
  }

  /** A name as people type it, where the server keeps it in capitals. */
  private String typed(String name) {
    boolean capitals = access.rules().fold("a").equals("A");
    return capitals && name.equals(name.toUpperCase(Locale.ROOT))
        ? name.toLowerCase(Locale.ROOT)
        : name;
  }

  private Found column(List<Part> parts, IntPredicate fits) {
    IntArrayList objects = matches(parts.subList(0, parts.size() - 1), fits);
    Part last = parts.get(parts.size() - 1);
    if (objects.size() != 1 || tree.columns(objects.getInt(0)) == 0) {
      return null;
    }
    int node = objects.getInt(0);
    int ordinal = tree.columnNamed(node, last.text());
    if (ordinal < 0 && !last.quoted()) {
      ordinal = tree.columnNamed(node, access.rules().fold(last.text()));
    }
    if (ordinal >= 0) {
      return new Found(node, ordinal, null);
    }
    return Found.not(
        typed(tree.path(node))
            + " has no column "
            + last.text()
            + Nearest.hint(
                last.text(),
                IntStream.range(0, tree.columns(node)).mapToObj(i -> typed(tree.column(node, i)))));
  }

  /** The nodes whose path, from some level on, is these parts. */
  private IntArrayList matches(List<Part> parts, IntPredicate fits) {
    IntArrayList at = new IntArrayList();
    for (int i = tree.children().from(0); i < tree.children().to(0); i++) {
      at.add(tree.children().row(i));
    }
    IntArrayList found = below(at, parts, fits);
    if (found.isEmpty()) {
      IntArrayList schemas = new IntArrayList();
      for (int j = 0; j < at.size(); j++) {
        if (tree.kind(at.getInt(j)) == NodeKind.DATABASE) {
          for (int i = tree.children().from(at.getInt(j));
              i < tree.children().to(at.getInt(j));
              i++) {
            schemas.add(tree.children().row(i));
          }
        }
      }
      found = below(schemas, parts, fits);
    }
    return found;
  }

  private IntArrayList below(IntArrayList starts, List<Part> parts, IntPredicate fits) {
    IntArrayList level = starts;
    for (int depth = 0; depth < parts.size(); depth++) {
      Part part = parts.get(depth);
      boolean last = depth == parts.size() - 1;
      int exact = access.names().find(part.text());
      int folded = part.quoted() ? exact : access.names().find(access.rules().fold(part.text()));
      IntArrayList named = new IntArrayList();
      for (int i = 0; i < level.size(); i++) {
        int node = level.getInt(i);
        boolean isRoutine = tree.kind(node) == NodeKind.ROUTINE;
        boolean isNamed =
            isRoutine
                ? isRoutineNamed(node, part)
                : tree.isNamed(node, exact) || tree.isNamed(node, folded);
        if (isNamed && (!last || fits.test(node))) {
          named.add(node);
        }
      }
      if (last) {
        return named;
      }
      level = new IntArrayList();
      for (int i = 0; i < named.size(); i++) {
        int node = named.getInt(i);
        for (int c = tree.children().from(node); c < tree.children().to(node); c++) {
          level.add(tree.children().row(c));
        }
      }
    }
    return level;
  }

  private boolean isRoutineNamed(int node, Part part) {
    String name = tree.name(node);
    if (name.equals(part.text())) {
      return true;
    }
    boolean withoutArguments = part.text().indexOf('(') < 0;
    if (part.quoted() && withoutArguments) {
      return name.startsWith(part.text() + "(");
    }
    String folded = access.rules().fold(part.text());
    if (name.equals(folded)) {
      return true;
    }
    String typed = part.text().replaceAll("\\s*([,()])\\s*", "$1");
    String held = name.replaceAll("\\s*([,()])\\s*", "$1");
    return held.equalsIgnoreCase(typed) || withoutArguments && name.startsWith(folded + "(");
  }

  private Found ambiguous(String path, IntArrayList found) {
    List<String> paths =
        found
            .intStream()
            .limit(5)
            .mapToObj(n -> tree.kind(n).text() + " " + typed(tree.path(n)))
            .toList();
    return Found.not(
        path + " may mean any of " + String.join(", ", paths) + "; write the whole path");
  }

  private Found missing(String path, List<Part> parts) {
    String last = parts.get(parts.size() - 1).text().toLowerCase(Locale.ROOT);
    Map<String, String> paths = new LinkedHashMap<>();
    IntStream.range(1, tree.size())
        .filter(node -> Math.abs(tree.name(node).length() - last.length()) <= 3)
        .filter(node -> !tree.isSystem(node))
        .limit(20_000)
        .forEach(
            node -> {
              String whole = typed(shortPath(node, Math.max(2, parts.size())));
              // a name alone is near the name of a thing, wherever that is
              paths.putIfAbsent(parts.size() == 1 ? typed(tree.name(node)) : whole, whole);
            });
    List<String> near = Nearest.to(path, paths.keySet().stream(), 3);
    String hint =
        near.isEmpty()
            ? ""
            : "; did you mean " + String.join(" or ", near.stream().map(paths::get).toList()) + "?";
    String unread = Unread.inWords(access);
    int place = parts.size() > 1 ? Unread.of(access, parts.get(0).text()) : None.NODE;
    if (place >= 0) {
      return new Found(
          None.NODE,
          None.COLUMN,
          "whether there is "
              + path
              + " is not known: "
              + tree.kind(place).text()
              + " "
              + tree.name(place)
              + " was not looked into; survey it with a login that may",
          true);
    }
    String problem = "there is no " + path + " on " + access.about().server() + hint;
    return unread.isEmpty()
        ? Found.not(problem)
        : new Found(None.NODE, None.COLUMN, problem + "; not looked into: " + unread, true);
  }

  private String shortPath(int node, int parts) {
    String full = tree.path(node);
    int database = tree.enclosing(node, NodeKind.DATABASE);
    boolean cut = database > 0 && database != node && parts < DottedName.split(full).size();
    return cut ? full.substring(tree.path(database).length() + 1) : full;
  }
}
