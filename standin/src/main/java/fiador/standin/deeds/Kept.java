package fiador.standin.deeds;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What a statement has made that its text does not say. */
@JsonInclude(JsonInclude.Include.NON_EMPTY)
public final class Kept {
  private @Nullable String table;
  private Map<String, String> columns = new LinkedHashMap<>();
  private @Nullable String sealed;
  private @Nullable String behind;
  private List<List<String>> reads = new ArrayList<>();

  /** Under which name a new table's rows are kept. */
  public @Nullable String getTable() {
    return table;
  }

  /** Says that name. */
  public void setTable(@Nullable String table) {
    this.table = table;
  }

  /** A secret that is said to another server, sealed. */
  public @Nullable String getSealed() {
    return sealed;
  }

  /** Says it. */
  public void setSealed(@Nullable String sealed) {
    this.sealed = sealed;
  }

  /** Who was behind it, where somebody acted as another; null where not. */
  public @Nullable String getBehind() {
    return behind;
  }

  /** Says who was behind it. */
  public void setBehind(@Nullable String behind) {
    this.behind = behind;
  }

  /** What a new view reads: the names on the way to each. */
  public List<List<String>> getReads() {
    return reads;
  }

  /** Says what it reads. */
  public void setReads(List<List<String>> reads) {
    this.reads = reads;
  }

  /** What a new view shows. */
  public Map<String, String> getColumns() {
    return columns;
  }

  /** Says what it shows. */
  public void setColumns(Map<String, String> columns) {
    this.columns = columns;
  }
}
