package fiador.columns;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

final class ColumnsTest {
  private static final int[] NUMBERS = IntStream.range(0, 10_000).map(i -> 3 * i - 7).toArray();
  private static final String TEXT = "The pump of district north, and söme other. ".repeat(300);

  private final List<Integer> fetched = new ArrayList<>();

  private Ints inPieces() {
    return Ints.fetched(
        NUMBERS.length,
        piece -> {
          fetched.add(piece);
          int from = piece * Ints.PIECE;
          return Arrays.copyOfRange(NUMBERS, from, Math.min(NUMBERS.length, from + Ints.PIECE));
        });
  }

  @Test
  void onlyThePiecesThatAreAskedForAreFetchedAndEachOnce() {
    Ints ints = inPieces();
    assertThat(fetched).isEmpty();
    int second = Ints.PIECE;
    assertThat(ints.get(second + 200)).isEqualTo(NUMBERS[second + 200]);
    assertThat(ints.get(second)).isEqualTo(NUMBERS[second]);
    assertThat(fetched).containsExactly(1);
  }

  @Test
  void piecesAndAnArrayAreTheSame() {
    for (Ints ints : List.of(inPieces(), Ints.of(NUMBERS))) {
      assertThat(ints.toArray()).isEqualTo(NUMBERS);
      assertThat(ints.copy(4000, 8500)).isEqualTo(Arrays.copyOfRange(NUMBERS, 4000, 8500));
      assertThat(ints.search(NUMBERS[9999])).isEqualTo(9999);
      assertThat(ints.search(NUMBERS[17] + 1)).isEqualTo(-19);
      assertThat(ints.toArray(10_002)).endsWith(NUMBERS[9999], 0, 0);
      int sum = 0;
      for (int from = 100; from < 9000; from = ints.endOfArray(from)) {
        int to = Math.min(9000, ints.endOfArray(from));
        for (int at = from; at < to; at++) {
          sum += ints.array(from)[ints.inArray(from) + at - from];
        }
      }
      assertThat(sum).isEqualTo(Arrays.stream(NUMBERS, 100, 9000).sum());
    }
  }

  @Test
  void thereIsNothingBehindTheEnd() {
    assertThatThrownBy(() -> Ints.of(1, 2).get(2)).isInstanceOf(IndexOutOfBoundsException.class);
    assertThatThrownBy(() -> inPieces().get(10_000)).isInstanceOf(IndexOutOfBoundsException.class);
    assertThatThrownBy(() -> inPieces().get(-1)).isInstanceOf(IndexOutOfBoundsException.class);
  }

  @Test
  void textsMayReachOverPieces() {
    char[] all = TEXT.toCharArray();
    Chars pieces =
        Chars.fetched(
            all.length,
            piece -> {
              int from = piece * Chars.PIECE;
              return TEXT.substring(from, Math.min(all.length, from + Chars.PIECE));
            });
    for (Chars chars : List.of(pieces, Chars.of(TEXT))) {
      assertThat(chars.text(4000, 4200)).isEqualTo(TEXT.substring(4000, 4200));
      assertThat(chars.text(0, all.length)).isEqualTo(TEXT);
      assertThat(chars.text(4096, 4096)).isEmpty();
      assertThat(chars.same(4000, 4200, all, 4000)).isTrue();
      assertThat(chars.same(4000, 4200, all, 4001)).isFalse();
    }
  }

  @Test
  void whatIsPackedIsUnpacked() {
    HeapColumns columns = new HeapColumns();
    PackedWriter writer = new PackedWriter();
    writer.number(-3).bits(Long.MIN_VALUE + 5).flag(true).text("grün").optional(null);
    writer.optional("").each(List.of("a", "bc"), writer::text).put("some", columns);
    PackedReader reader = new PackedReader("some", columns);
    assertThat(reader.number()).isEqualTo(-3);
    assertThat(reader.bits()).isEqualTo(Long.MIN_VALUE + 5);
    assertThat(reader.flag()).isTrue();
    assertThat(reader.text()).isEqualTo("grün");
    assertThat(reader.optional()).isNull();
    assertThat(reader.optional()).isEmpty();
    assertThat(reader.list(reader::text)).containsExactly("a", "bc");
    assertThatThrownBy(() -> columns.chars("other")).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> columns.ints("other")).isInstanceOf(IllegalArgumentException.class);
  }
}
