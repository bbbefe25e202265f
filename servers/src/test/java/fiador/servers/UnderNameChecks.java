package fiador.servers;

import java.sql.Connection;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What holds on every kind of server for a table whose view stands under its name. */
public abstract class UnderNameChecks {
  private final String ann;
  private final String eve;
  private final String refused;
  private final String gone;

  /**
   * @param ann how the server calls the one who sees little
   * @param eve how it calls the one who sees all
   * @param refused its code where somebody may not read
   * @param gone its code where there is no such table
   */
  protected UnderNameChecks(String ann, String eve, String refused, String gone) {
    this.ann = ann;
    this.eve = eve;
    this.refused = refused;
    this.gone = gone;
  }

  /** What is done with a server on which the tables are. */
  protected interface Told {
    void tell(UnderNameScenario scenario, Connection admin) throws Exception;
  }

  /** Does it on a server of its own, or one that is as before afterwards. */
  protected abstract void with(Told told) throws Exception;

  /** What was given on the tables, as the server says it. */
  protected abstract List<String> grants(Connection admin);

  @Test
  protected void itIsSeenAsTheCoreSaysChangedAndUndone() throws Exception {
    with(
        (scenario, admin) ->
            scenario.isSeenChangedAndUndone(List.of(ann, eve), () -> grants(admin), refused));
  }

  @Test
  protected void aCharterTakesItBackAndGrantsAreWhereTheyWere() throws Exception {
    with((scenario, admin) -> scenario.isTakenBack(() -> grants(admin)));
  }

  @Test
  protected void aViewBesideTheTableGivesWayAndComesBack() throws Exception {
    with(
        (scenario, admin) ->
            scenario.besideGivesWayAndComesBack(ann, () -> grants(admin), gone, refused));
  }
}
