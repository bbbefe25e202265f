package fiador.sqltext.lineage;

import fiador.estate.None;
import fiador.grants.AccessBuilder;
import fiador.houses.FactSort;
import fiador.houses.HouseSheet;
import fiador.houses.SheetSurvey;
import fiador.houses.Things;
import fiador.sqltext.SqlReader;
import java.util.List;

/** Follows the texts of views that a house sheet's sources give. */
public final class SheetTexts implements SheetSurvey.Texts {
  private final SqlReader reader;

  /** Whether the texts are all that tells what has to be readable under a view. */
  private final boolean readsToo;

  /** Those of a kind of server. */
  public SheetTexts(HouseSheet sheet) {
    this.reader = new SqlReader(sheet.rules());
    this.readsToo = sheet.rules().looksUnderViews() && sheet.reading().of(FactSort.READS).isEmpty();
  }

  @Override
  public void view(AccessBuilder builder, Things things, int node, String text) {
    int home = builder.estate().parent(node);
    Relations named =
        new Relations() {
          @Override
          public int node(String schema, String name) {
            return things.relation(home, schema, name);
          }

          @Override
          public int node(String database, String schema, String name) {
            return things.relation(database, schema, name);
          }

          @Override
          public boolean acrossDatabases() {
            return true;
          }

          @Override
          public List<String> columns(int relation) {
            return relation == None.NODE ? List.of() : things.columnNames(relation);
          }
        };
    // what stands before the query is no part of it: create view NAME (columns) as
    String query =
        text.replaceFirst("(?is)^\\s*create\\s.*?\\sas\\s+(?=select|with|values|\\()", "");
    LineageCollector collector = new LineageCollector(builder, named, reader);
    collector.view(node, query);
    if (readsToo) {
      collector.routine(node, query, true, named);
    }
  }
}
