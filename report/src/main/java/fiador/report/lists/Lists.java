package fiador.report.lists;

import fiador.estate.PrincipalKind;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import java.io.IOException;
import java.io.PrintStream;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;

/** The lists there are. */
public final class Lists {
  /** Their names, in the order in which one would look. */
  public static final List<String> NAMES =
      List.of(
          "users",
          "roles",
          "members",
          "grants",
          "denials",
          "powers",
          "objects",
          "policies",
          "seals",
          "foreign",
          "mappings");

  private Lists() {}

  /** The list somebody means, who may also say "grant" or "Policy"; null for none. */
  public static String nameOf(String typed) {
    String small = typed.toLowerCase(Locale.ROOT);
    for (String name : NAMES) {
      boolean one = name.equals(small + "s") || name.equals(small.replaceAll("y$", "ies"));
      if (name.equals(small) || one) {
        return name;
      }
    }
    return null;
  }

  /** The ways to narrow a list, by the options' names. */
  public static Set<String> narrowedBy(String name) {
    return new TreeSet<>(
        switch (name) {
          case "users", "mappings" -> Set.of("to");
          case "roles" -> Set.of("to", "role");
          case "members" -> Set.of("to", "by", "role");
          case "powers" -> Set.of("to", "role");
          case "objects" -> Set.of("to", "on", "schema", "kind");
          case "policies", "seals", "foreign" -> Set.of("on", "schema", "kind");
          default -> Set.of("to", "by", "role", "on", "schema", "kind", "privilege", "without");
        });
  }

  /** The list of that name. */
  private static Listing named(String name, Source source, boolean forPeople) {
    return switch (name) {
      case "users" -> new PrincipalList(source, PrincipalKind.USER);
      case "roles" -> new PrincipalList(source, PrincipalKind.ROLE);
      case "members" -> new MemberList(source);
      case "grants" -> new GrantList(source, false, forPeople && source.dates() == null);
      case "denials" -> new GrantList(source, true, forPeople);
      case "powers" -> new PowerList(source);
      case "objects" -> new ObjectList(source);
      case "policies" -> new PolicyList(source);
      case "seals" -> new SealList(source);
      case "foreign" -> new ForeignList(source);
      case "mappings" -> new MappingList(source);
      default -> throw new IllegalArgumentException("no list " + name);
    };
  }

  /**
   * Writes a list.
   *
   * @param name one of {@link #NAMES}
   * @param width how wide a line of text may be
   * @return how many rows there are
   */
  public static long write(String name, Source source, Format format, int width, PrintStream out)
      throws IOException {
    Listing listing = named(name, source, format == Format.TEXT);
    if (format == Format.TEXT) {
      ListText text = new ListText(source, listing, width);
      out.print(text.whole());
      return text.count();
    }
    long[] count = new long[1];
    try (RowWriter writer = RowWriter.to(out, format, listing.fields())) {
      listing.rows(
          row -> {
            writer.row(row);
            count[0]++;
          });
    }
    return count[0];
  }
}
