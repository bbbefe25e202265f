package fiador.sweep.estate;

import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.policies.Seeing;
import fiador.report.rows.HoldingRows;
import fiador.sweep.tables.Sink;
import fiador.sweep.tables.Table;
import it.unimi.dsi.fastutil.HashCommon;
import it.unimi.dsi.fastutil.ints.Int2ObjectLinkedOpenHashMap;
import it.unimi.dsi.fastutil.longs.LongArrayList;
import it.unimi.dsi.fastutil.objects.Object2IntOpenHashMap;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Keeps what users hold so that what is the same is kept once: each right is written once, the
 * rights inside a container that some users have exactly alike are one span, and users who have the
 * same spans are alike. Users of the same roles, which is most of them, cost a line each. Cost: the
 * holdings; memory: different spans.
 */
final class Alike {
  /** How much of a digest is kept: nobody finds two spans with the same mark, even on purpose. */
  private static final int MARK_BYTES = 16;

  /** Numbers of different parts of a server do not meet. */
  private static final int PART_SHIFT = 40;

  private static final String[] PRIVILEGES =
      Arrays.stream(Privilege.values()).map(Privilege::text).toArray(String[]::new);

  private final Access access;
  private final Tree tree;
  private final Seeing seeing;
  private final Sink sink;
  private final long first;
  private final Map<LongArrayList, Span> spans = new HashMap<>();
  private final Map<LongArrayList, Long> alike = new HashMap<>();
  private final Object2IntOpenHashMap<Detail> details = new Object2IntOpenHashMap<>();
  private final List<Detail> detailsByNumber = new ArrayList<>();
  private final Map<Key, Numbered> rights = new HashMap<>();

  /** What most rights have nothing of. */
  private record Detail(
      @Nullable List<String> columns, @Nullable String rows, @Nullable List<String> masked) {
    static final Detail NONE = new Detail(null, null, null);
  }

  /** What tells a right from others: thing, privilege, state and option in one, and its detail. */
  private record Key(long packed, int detail) {
    /** Things and privileges are small numbers, which the usual sum lets fall together. */
    @Override
    public int hashCode() {
      return (int) HashCommon.mix(packed + 31L * detail);
    }
  }

  /** A right that was written. */
  private record Numbered(long number, byte[] digest) {}

  /** A span that was written. */
  private record Span(long number, String mark, int holdings) {}

  Alike(Access access, int part, Sink sink) {
    this.access = access;
    this.tree = access.tree();
    this.seeing = new Seeing(access);
    this.sink = sink;
    this.first = (long) part << PART_SHIFT;
    details.defaultReturnValue(-1);
    details.put(Detail.NONE, 0);
    detailsByNumber.add(Detail.NONE);
  }

  /** Keeps what a user holds; tells as what. */
  long keep(List<Holding> held) throws IOException {
    Map<Integer, LongArrayList> byContainer = new Int2ObjectLinkedOpenHashMap<>();
    for (Holding holding : held) {
      LongArrayList packed =
          byContainer.computeIfAbsent(container(holding.node()), none -> new LongArrayList());
      packed.add(
          (long) holding.node() << 32
              | (long) holding.privilege().ordinal() << 8
              | holding.state().ordinal() << 1
              | (holding.grantable() ? 1 : 0));
      packed.add(detail(holding));
    }
    LongArrayList numbers = new LongArrayList(byContainer.size());
    Map<Integer, Span> own = new LinkedHashMap<>();
    for (Map.Entry<Integer, LongArrayList> each : byContainer.entrySet()) {
      Span span = spans.get(each.getValue());
      if (span == null) {
        span = write(each.getValue());
        spans.put(each.getValue(), span);
      }
      numbers.add(span.number());
      own.put(each.getKey(), span);
    }
    Long known = alike.get(numbers);
    if (known != null) {
      return known;
    }
    long number = first + alike.size();
    alike.put(numbers, number);
    for (Map.Entry<Integer, Span> each : own.entrySet()) {
      Span span = each.getValue();
      sink.row(
          Table.SPANS,
          number,
          tree.path(each.getKey()),
          span.number(),
          (long) span.holdings(),
          span.mark());
    }
    return number;
  }

  /** What a thing is in; a container counts as in itself. */
  private int container(int node) {
    return tree.kind(node).isObject() ? tree.parent(node) : node;
  }

  private int detail(Holding holding) {
    boolean sight = holding.privilege() == Privilege.SELECT && seeing.decides(holding.node());
    if (holding.columns() == null && !sight) {
      return 0;
    }
    Map<String, Object> row = new HashMap<>();
    HoldingRows.thing(access, holding.privilege(), holding.node(), holding.columns(), row);
    if (sight) {
      Seeing.Answer answer = seeing.of(holding.user(), holding.node());
      HoldingRows.sight(answer, holding.columns(), access, row);
    }
    Detail detail =
        new Detail(texts(row.get("columns")), (String) row.get("rows"), texts(row.get("masked")));
    int known = details.getInt(detail);
    if (known < 0) {
      known = details.size();
      details.put(detail, known);
      detailsByNumber.add(detail);
    }
    return known;
  }

  private static @Nullable List<String> texts(@Nullable Object value) {
    return value == null ? null : ((List<?>) value).stream().map(Object::toString).toList();
  }

  private Span write(LongArrayList packed) throws IOException {
    long number = first + spans.size();
    MessageDigest digest = digest();
    for (int at = 0; at < packed.size(); at += 2) {
      Key key = new Key(packed.getLong(at), (int) packed.getLong(at + 1));
      Numbered right = rights.get(key);
      if (right == null) {
        right = write(key);
        rights.put(key, right);
      }
      sink.row(Table.CONTENTS, number, right.number());
      digest.update(right.digest());
    }
    String mark = HexFormat.of().formatHex(digest.digest(), 0, MARK_BYTES);
    return new Span(number, mark, packed.size() / 2);
  }

  private Numbered write(Key key) throws IOException {
    Right right = right(key.packed(), key.detail());
    long number = first + rights.size();
    sink.row(
        Table.RIGHTS,
        number,
        right.privilege(),
        right.kind(),
        right.object(),
        right.columns(),
        right.state(),
        right.grantable(),
        right.rows(),
        right.masked());
    byte[] text = right.toString().getBytes(StandardCharsets.UTF_8);
    return new Numbered(number, digest().digest(text));
  }

  private Right right(long packed, int detailNumber) {
    int node = (int) (packed >>> 32);
    Detail detail = detailsByNumber.get(detailNumber);
    return new Right(
        PRIVILEGES[(int) (packed >>> 8) & 0xff],
        tree.kind(node).contractName(),
        tree.path(node),
        detail.columns(),
        State.at((int) (packed >>> 1) & 0x7f).text(),
        (packed & 1) != 0,
        detail.rows(),
        detail.masked());
  }

  private static MessageDigest digest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException(never);
    }
  }
}
