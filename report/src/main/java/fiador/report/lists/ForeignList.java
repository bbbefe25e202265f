package fiador.report.lists;

import fiador.grants.Abroad;
import fiador.report.text.Places;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;

/** Tables whose rows another server or a file holds. */
final class ForeignList implements Listing {
  private final Source source;

  ForeignList(Source source) {
    this.source = source;
  }

  @Override
  public List<String> fields() {
    return List.of("object", "server", "carrier", "address", "there", "owner", "part_of");
  }

  @Override
  public Counted counted() {
    return new Counted("foreign table", "foreign tables");
  }

  @Override
  public String remark() {
    return "who goes on as whom: fiador list mappings";
  }

  @Override
  public void rows(Sink sink) throws IOException {
    Abroad abroad = source.access().seen().abroad();
    for (Map.Entry<Integer, Abroad.Table> entry : new TreeMap<>(abroad.tables()).entrySet()) {
      int node = entry.getKey();
      if (!source.selection().includes(node)) {
        continue;
      }
      Abroad.Place place = abroad.places().get(entry.getValue().place());
      sink.row(
          new Row()
              .put("object", source.shown().path(node))
              .put("server", Places.name(place))
              .put("carrier", Places.carrier(place))
              .put("address", Places.address(place))
              .put("there", Places.there(entry.getValue()))
              .put("owner", source.principal(source.access().tree().owner(node)))
              .put("part_of", wholes(entry.getValue()))
              .values());
    }
  }

  private String wholes(Abroad.Table table) {
    return table.wholes().stream()
        .map(whole -> source.shown().path(whole))
        .collect(Collectors.joining(", "));
  }
}
