package fiador.houses;

import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.Origin;
import fiador.grants.rules.HouseFact;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Makes an estate of the rows that a house sheet's sources give. Sources are begun in the order of
 * {@link FactSort}, each with its header, and get their rows one by one.
 *
 * <p>Cost: a few looks into tables a row; memory: the estate, and the columns' names.
 */
public final class SheetSurvey {
  private final HouseSheet sheet;
  private final String server;
  private final AccessBuilder builder = new AccessBuilder();
  private final People people;
  private final Things things;
  private final Labels labels;
  private final Given given;
  private final Under under;
  private final Elsewhere elsewhere;
  private final Map<FactSort, Integer> skipped = new EnumMap<>(FactSort.class);

  /** Takes the rows of one source. */
  public interface Rows {
    /**
     * One row.
     *
     * @throws BadRowException when it is no such fact
     */
    void take(SourceRow row) throws BadRowException;
  }

  /** Is given the texts of views, once all things are known. */
  public interface Texts {
    /**
     * A view.
     *
     * @param things what names mean there
     */
    void view(AccessBuilder builder, Things things, int node, String text);
  }

  /**
   * An estate of one server.
   *
   * @param server what the survey calls it
   */
  public SheetSurvey(HouseSheet sheet, String server) {
    this.sheet = sheet;
    this.server = server;
    this.people = new People(builder, sheet);
    builder.estate().node(None.NODE, NodeKind.SERVER, server, None.PRINCIPAL);
    this.things = new Things(builder, sheet, people);
    this.labels = new Labels(builder, sheet, things);
    this.given = new Given(builder, sheet, people, things, labels);
    this.under = new Under(builder, things);
    this.elsewhere = new Elsewhere(builder, people, things);
  }

  /**
   * Begins a source.
   *
   * @param header the names of the columns its rows have
   * @throws BadRowException when columns are missing that the sheet names
   */
  public Rows begin(FactSource source, List<String> header) throws BadRowException {
    BoundSource bound = BoundSource.of(source, header);
    Rows rows =
        switch (source.sort()) {
          case PRINCIPALS -> row -> people.principal(bound, row);
          case POWERS -> row -> people.power(bound, row);
          case CONTAINERS -> row -> things.container(bound, row);
          case COLUMNS -> row -> things.column(bound, row);
          case OBJECTS -> row -> things.object(bound, row);
          case LABELS -> row -> labels.carries(bound, row);
          case MEMBERSHIPS -> row -> people.membership(bound, row);
          case GRANTS -> row -> given.grant(bound, row, true);
          case DENIALS -> row -> given.grant(bound, row, false);
          case LATER_GRANTS -> row -> given.later(bound, row);
          case READS -> row -> under.reads(bound, row);
          case ATTRIBUTES -> row -> people.attribute(bound, row);
          case POLICIES -> row -> things.policies(bound, row);
          case ADDRESSES -> row -> elsewhere.address(bound, row);
          case FOREIGN_SERVERS -> row -> elsewhere.server(bound, row);
          case USER_MAPPINGS -> row -> elsewhere.login(bound, row);
          case FOREIGN_TABLES -> row -> elsewhere.table(bound, row);
        };
    return row -> {
      if (bound.takes(row)) {
        take(source, rows, row);
      }
    };
  }

  /**
   * The sources in the order they are read, those together that can be read in one go because they
   * are found in the same files.
   */
  public static List<List<FactSource>> together(Reading reading) {
    List<List<FactSource>> all = new ArrayList<>();
    for (FactSort sort : FactSort.values()) {
      for (FactSource source : reading.of(sort)) {
        List<FactSource> last = all.isEmpty() ? null : all.get(all.size() - 1);
        boolean same =
            last != null
                && source.extract() != null
                && source.extract().equals(last.get(0).extract())
                && source.sort().goesWith(last.get(0).sort());
        if (last != null && same) {
          last.add(source);
        } else {
          all.add(new ArrayList<>(List.of(source)));
        }
      }
    }
    return all;
  }

  private void take(FactSource source, Rows rows, SourceRow row) throws BadRowException {
    try {
      rows.take(row);
    } catch (UnknownException unknown) {
      if (!source.skipsUnknown()) {
        throw new BadRowException(unknown.column(), unknown.what());
      }
      skipped.merge(source.sort(), 1, Integer::sum);
    }
  }

  /** What the survey calls the server. */
  public String server() {
    return server;
  }

  /** What was left out because it is about somebody or something that is not there. */
  public List<String> skipped() {
    List<String> found = new ArrayList<>();
    skipped.forEach(
        (sort, count) ->
            found.add(
                count
                    + " of the "
                    + sort.word().replace('_', ' ')
                    + " are about users, roles or things that are not there; they are left out"));
    return found;
  }

  /** What the sheet does not say how to find, in words: nothing is known of that. */
  public List<String> notKnown() {
    List<String> missing = new ArrayList<>();
    boolean denials = sheet.rules().has(HouseFact.DENIALS);
    boolean later = sheet.rules().has(HouseFact.LATER_GRANTS);
    for (FactSort sort : FactSort.values()) {
      boolean expected =
          switch (sort) {
            case MEMBERSHIPS, GRANTS -> true;
            case DENIALS -> denials;
            case LATER_GRANTS -> later;
            case LABELS -> sheet.rules().has(HouseFact.LABELS);
            case ATTRIBUTES, POLICIES -> sheet.rules().has(HouseFact.VEILS_TABLES);
            default -> false;
          };
      if (expected && sheet.reading().of(sort).isEmpty()) {
        missing.add(
            sort.word().replace('_', ' ')
                + " are not known: there are such on servers of kind "
                + sheet.kind()
                + ", and its sheet does not say where to find them");
      }
    }
    return missing;
  }

  /** Says where the server was reached, as {@code host:port}. */
  public void reachedAt(String address) {
    builder.abroad().address(address.toLowerCase(Locale.ROOT));
  }

  /** The estate, once all sources were read. */
  public Access build(Origin about, Texts texts) {
    given.end();
    under.end();
    things.texts().forEach((node, text) -> texts.view(builder, things, node, text));
    return builder.build(about, sheet.rules());
  }
}
