package fiador.files.records;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

class RecordsTest {
  record Leaf(int number, String text) {}

  /** One that has two constructors. */
  record Tree(Object value, Leaf left, Leaf right) {
    Tree(Object value) {
      this(value, null, null);
    }
  }

  record Foreign(Thread thread) {}

  private static Tree again(Tree tree) throws IOException {
    return RecordReader.read(ByteBuffer.wrap(RecordWriter.write(tree)), Tree.class);
  }

  @Test
  void everyKindOfValueComesBack() throws IOException {
    List<Object> values =
        Arrays.asList(
            null,
            "",
            "maré\uD83C\uDF0A",
            7,
            -8L,
            true,
            false,
            Privilege.SELECT,
            NodeKind.TABLE,
            new BigDecimal("1.50"),
            Instant.parse("2026-12-01T10:00:00Z"),
            LocalDate.of(2026, 12, 1),
            LocalDateTime.of(2026, 12, 1, 10, 0),
            List.of(),
            Set.of("a"),
            Map.of("a", List.of(1, 2)),
            new Leaf(1, "x".repeat(100_000)));
    Tree tree = new Tree(values);
    assertThat(again(tree)).isEqualTo(tree);
  }

  @Test
  void whatIsOneStaysOneAndWhatIsTwoStaysTwo() throws IOException {
    Leaf shared = new Leaf(1, "a");
    Leaf alike = new Leaf(1, "a");
    IdentityHashMap<Leaf, Integer> places = new IdentityHashMap<>();
    places.put(shared, 4);
    places.put(alike, 9);
    Tree back = again(new Tree(List.of(places, shared), shared, alike));
    assertThat(back.left()).isEqualTo(back.right()).isNotSameAs(back.right());
    List<?> value = (List<?>) back.value();
    assertThat(value.get(1)).isSameAs(back.left());
    assertThat(((Map<?, ?>) value.get(0)).get(back.left())).isEqualTo(4);
    assertThat(((Map<?, ?>) value.get(0)).get(back.right())).isEqualTo(9);
  }

  @Test
  void whatIsNoneOfOursIsNeitherWrittenNorMade() throws IOException {
    assertThatThrownBy(() -> RecordWriter.write(new Foreign(Thread.currentThread())))
        .hasMessage("not among what is kept: java.lang.Thread");
    byte[] bytes = RecordWriter.write(new Tree(new Leaf(1, "a")));
    String ours = Leaf.class.getName();
    String theirs = "java.lang.ProcessBuilder" + "x".repeat(ours.length() - 24);
    String changed = new String(bytes, StandardCharsets.ISO_8859_1).replace(ours, theirs);
    ByteBuffer other = ByteBuffer.wrap(changed.getBytes(StandardCharsets.ISO_8859_1));
    assertThatThrownBy(() -> RecordReader.read(other, Tree.class))
        .isInstanceOf(IOException.class)
        .hasMessageStartingWith("none of ours");
  }

  @Test
  void anyOtherBytesAreRefusedOrAnotherTree() throws IOException {
    byte[] bytes =
        RecordWriter.write(new Tree(List.of(Privilege.SELECT, true, "a"), new Leaf(1, "b"), null));
    for (int at = 0; at < bytes.length; at++) {
      for (int bit = 0; bit < 8; bit++) {
        byte[] damaged = bytes.clone();
        damaged[at] ^= (byte) (1 << bit);
        try {
          RecordReader.read(ByteBuffer.wrap(damaged), Tree.class);
        } catch (IOException refused) {
          assertThat(refused).hasMessageNotContaining("null");
        }
      }
      byte[] cut = Arrays.copyOf(bytes, at);
      assertThatThrownBy(() -> RecordReader.read(ByteBuffer.wrap(cut), Tree.class))
          .isInstanceOf(IOException.class);
    }
  }
}
