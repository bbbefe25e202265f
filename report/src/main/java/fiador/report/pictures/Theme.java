package fiador.report.pictures;

import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.Figure.Shape;
import java.awt.Color;
import java.util.List;

/**
 * The colours of a drawing. Text stands out from its ground by at least 4.5 to 1, lines by 3; no
 * two meanings differ by colour alone.
 */
public enum Theme {
  LIGHT(
      new Ground(0xffffff, 0x1b2430, 0x56616e),
      List.of(
          new Tint(0xe6eff7, 0x2f5d86),
          new Tint(0xf1ecf8, 0x6a4a9c),
          new Tint(0xe9f2e6, 0x4a7340),
          new Tint(0xf8f3e3, 0x7d6a2b)),
      0x2a5d8f,
      0x8a5800,
      0xa32638,
      0x7a1f6b,
      0x5f6770,
      0x146650,
      0xa32638),
  DARK(
      new Ground(0x15191f, 0xe7ebef, 0xa6b0bb),
      List.of(
          new Tint(0x1f3346, 0x8dbbe4),
          new Tint(0x31284a, 0xbfa6ec),
          new Tint(0x22361f, 0x98c98a),
          new Tint(0x393215, 0xd8c06f)),
      0x86b8e6,
      0xe2ab52,
      0xf0808f,
      0xdf90d0,
      0xa6b0bb,
      0x62cfb2,
      0xf0808f),
  /** For paper: nothing depends on ink of another colour than black. */
  PRINT(
      new Ground(0xffffff, 0x000000, 0x444444),
      List.of(
          new Tint(0xffffff, 0x000000),
          new Tint(0xf0f0f0, 0x000000),
          new Tint(0xffffff, 0x000000),
          new Tint(0xffffff, 0x000000)),
      0x000000,
      0x000000,
      0x000000,
      0x000000,
      0x555555,
      0x000000,
      0x000000);

  /**
   * What everything stands on.
   *
   * @param paper the ground
   * @param text what is read
   * @param faint what is read second
   */
  record Ground(int paper, int text, int faint) {}

  /** A box: what fills it and what goes round it. */
  record Tint(int fill, int edge) {}

  private final Ground ground;
  private final List<Tint> shapes;
  private final int[] manners;

  /**
   * @param shapes of each shape, in their order
   * @param manners of each manner, in their order
   */
  Theme(Ground ground, List<Tint> shapes, int... manners) {
    this.ground = ground;
    this.shapes = shapes;
    this.manners = manners;
  }

  Color paper() {
    return new Color(ground.paper());
  }

  Color text() {
    return new Color(ground.text());
  }

  Color faint() {
    return new Color(ground.faint());
  }

  Color fill(Shape shape) {
    return new Color(shapes.get(shape.ordinal()).fill());
  }

  Color edge(Shape shape) {
    return new Color(shapes.get(shape.ordinal()).edge());
  }

  Color of(Manner manner) {
    return new Color(manners[manner.ordinal()]);
  }
}
