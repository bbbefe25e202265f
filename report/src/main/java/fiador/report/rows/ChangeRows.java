package fiador.report.rows;

import fiador.changes.Gap;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.outcome.SightEffects;
import fiador.effects.State;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.predicates.Expression;
import fiador.predicates.PredicateText;
import fiador.report.shown.Shown;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** What a change does to people as rows for machines. */
public final class ChangeRows {
  /** The fields, in order. */
  public static final List<String> FIELDS =
      List.of(
          "user",
          "privilege",
          "kind",
          "object",
          "columns",
          "was",
          "is",
          "could_grant",
          "can_grant",
          "rows_was",
          "rows_is",
          "masks_was",
          "masks_is");

  private final Gap gap;
  private final Shown shown;

  /** For that gap. */
  public ChangeRows(Gap gap) {
    this.gap = gap;
    this.shown = new Shown(gap.outcome().after(), false);
  }

  /** One change; a state that was or is not there is {@code none}. */
  public Map<String, Object> row(Change change) {
    Tree tree = gap.before().tree();
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("user", shown.principal(change.user()));
    row.put("privilege", change.privilege().text());
    row.put("kind", tree.kind(change.node()).contractName());
    row.put("object", shown.path(change.node()));
    if (change.columns() != null) {
      row.put(
          "columns",
          change.columns().stream()
              .mapToObj(column -> tree.column(change.node(), column))
              .collect(Collectors.toList()));
    }
    row.put("was", state(change.was()));
    row.put("is", state(change.is()));
    row.put("could_grant", change.couldGrant());
    row.put("can_grant", change.canGrant());
    return row;
  }

  /** How somebody sees a table otherwise; what is not there they cannot read. */
  public Map<String, Object> row(SightEffects.Change change) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("user", shown.principal(change.user()));
    row.put("privilege", Privilege.SELECT.text());
    row.put("kind", gap.before().tree().kind(change.table()).contractName());
    row.put("object", shown.path(change.table()));
    if (change.was() != null) {
      row.put("rows_was", rows(change.was()));
      row.put("masks_was", masks(change.was()));
    }
    if (change.is() != null) {
      row.put("rows_is", rows(change.is()));
      row.put("masks_is", masks(change.is()));
    }
    return row;
  }

  private static Map<String, String> masks(SightEffects.Look look) {
    Map<String, String> found = new TreeMap<>();
    look.masks()
        .forEach(
            (column, tried) ->
                found.put(
                    column,
                    tried.stream().map(ChangeRows::mask).collect(Collectors.joining(", then "))));
    return found;
  }

  private static String mask(SightEffects.Mask mask) {
    boolean always = mask.clear().equals(Expression.FALSE);
    return always ? mask.shows() : mask.shows() + " unless " + PredicateText.of(mask.clear());
  }

  private static String rows(SightEffects.Look look) {
    return look.known() ? PredicateText.of(look.rows()) : "not known";
  }

  private static String state(State state) {
    return state == null ? "none" : state.text();
  }
}
