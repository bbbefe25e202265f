package fiador.sweep.spark;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.refusal.BadInput;
import fiador.sweep.tables.Table;
import fiador.sweep.tables.TableFiles;
import java.io.Closeable;
import java.nio.file.Files;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class StoreTest {
  private static final Store.State STATE = new Store.State("d1", "i1", 7, List.of(), List.of(), "");

  @TempDir java.nio.file.Path folder;
  private final Configuration configuration = new Configuration();
  private Store store;

  @BeforeEach
  void store() throws Exception {
    store = new Store(folder.toString(), configuration);
  }

  private Store.Written written(String attempt, Table... tables) throws Exception {
    Path place = store.fresh("run", "n", attempt);
    try (TableFiles files = new TableFiles(place, configuration)) {
      for (Table table : tables) {
        files.row(table, new Object[table.fields().size()]);
      }
      assertThat(files.written()).containsExactlyInAnyOrder(tables);
    }
    return new Store.Written(place, EnumSet.copyOf(List.of(tables)));
  }

  private List<String> files(Table table) throws Exception {
    java.nio.file.Path place = folder.resolve(table.folder()).resolve("server=n");
    if (!Files.exists(place)) {
      return List.of();
    }
    try (var found = Files.list(place)) {
      return found
          .map(each -> each.getFileName().toString())
          .filter(name -> !name.endsWith(".crc"))
          .toList();
    }
  }

  @Test
  void newRowsTakeThePlaceOfOldOnesAndChangesStay() throws Exception {
    store.put("n", List.of(written("a", Table.SERVERS, Table.RIGHTS, Table.CHANGES)), "r1", STATE);
    assertThat(store.remembered("n")).isEqualTo(STATE);
    Store.State next = new Store.State("d2", "i1", 9, List.of(), List.of(), "");
    store.put(
        "n",
        List.of(written("b", Table.SERVERS, Table.CHANGES), written("c", Table.SPANS)),
        "r2",
        next);
    assertThat(store.remembered("n")).isEqualTo(next);
    assertThat(files(Table.SERVERS)).containsExactly("r2-0.parquet");
    assertThat(files(Table.SPANS)).containsExactly("r2-1.parquet");
    assertThat(files(Table.RIGHTS)).isEmpty();
    assertThat(files(Table.CHANGES)).containsExactlyInAnyOrder("r1-0.parquet", "r2-0.parquet");
  }

  @Test
  void whatAWorkerWroteElsewhereTakesNothingAway() throws Exception {
    store.put("n", List.of(written("a", Table.SERVERS, Table.RIGHTS)), "r1", STATE);
    Store.Written whole = written("b", Table.SERVERS);
    Store.Written lost =
        new Store.Written(store.fresh("run", "n", "elsewhere"), Set.of(Table.RIGHTS));
    assertThatThrownBy(() -> store.put("n", List.of(whole, lost), "r2", STATE))
        .hasMessageContaining("is the place of the sweep one that all workers share?");
    assertThat(files(Table.RIGHTS)).containsExactly("r1-0.parquet");
    assertThat(files(Table.SERVERS)).containsExactly("r1-0.parquet");
    assertThat(store.remembered("n")).isEqualTo(STATE);
  }

  @Test
  void whatIsRememberedMayBeDamaged() throws Exception {
    store.put("n", List.of(written("a", Table.SERVERS)), "r1", STATE);
    java.nio.file.Path state = folder.resolve("_sweep/state/server=n.json");
    Files.deleteIfExists(state.resolveSibling(".server=n.json.crc"));
    Files.writeString(state, "{\"digest\"");
    assertThat(store.remembered("n")).isNull();
    assertThat(store.remembered("unheard of")).isNull();
  }

  @Test
  void oneSweepAtATime() throws Exception {
    try (Closeable first = store.lock()) {
      assertThat(first).isNotNull();
      assertThatThrownBy(store::lock)
          .isInstanceOf(BadInput.class)
          .hasMessageContaining("is under way");
    }
    store.lock().close();
  }

  @Test
  void aNameAndItsFolderAreTheSame() throws Exception {
    for (String name : List.of("007", "a/b", "50%", "a=b", "x y", "ção", "%2F")) {
      store.put(name, List.of(serverRow(name)), "r", STATE);
    }
    assertThat(store.gone(List.of(new SurveyFile("a/b", "x", 1))))
        .containsExactly("%2F", "007", "50%", "a=b", "x y", "ção");
  }

  private Store.Written serverRow(String name) throws Exception {
    Path place = store.fresh("run", name, "a");
    try (TableFiles files = new TableFiles(place, configuration)) {
      files.row(Table.SERVERS, new Object[Table.SERVERS.fields().size()]);
    }
    return new Store.Written(place, Set.of(Table.SERVERS));
  }
}
