package fiador.sqltext.lineage;

import fiador.estate.None;
import fiador.grants.AccessBuilder;
import fiador.grants.rules.HouseRules;
import fiador.houses.SheetSurvey;
import fiador.houses.Things;
import fiador.sqltext.SqlReader;
import java.util.List;

/** Follows the texts of views that a house sheet's sources give. */
public final class SheetTexts implements SheetSurvey.Texts {
  private final SqlReader reader;

  /** Those of a kind of server. */
  public SheetTexts(HouseRules rules) {
    this.reader = new SqlReader(rules);
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
          public List<String> columns(int relation) {
            return relation == None.NODE ? List.of() : things.columnNames(relation);
          }
        };
    // what stands before the query is no part of it: create view NAME (columns) as
    String query =
        text.replaceFirst("(?is)^\\s*create\\s.*?\\sas\\s+(?=select|with|values|\\()", "");
    new LineageCollector(builder, named, reader).view(node, query);
  }
}
