package fiador.policies;

/**
 * One answer for each kind of mask; the compiler asks everybody about a new one.
 *
 * @param <T> what comes of it
 */
public interface MaskCases<T> {
  /** Of {@link Mask.Blank}. */
  T blank(Mask.Blank mask);

  /** Of {@link Mask.Fixed}. */
  T fixed(Mask.Fixed mask);

  /** Of {@link Mask.KeepFirst}. */
  T keepFirst(Mask.KeepFirst mask);

  /** Of {@link Mask.KeepLast}. */
  T keepLast(Mask.KeepLast mask);

  /** Of {@link Mask.Stars}. */
  T stars(Mask.Stars mask);

  /** Of {@link Mask.Digest}. */
  T digest(Mask.Digest mask);

  /** Of {@link Mask.DomainOnly}. */
  T domainOnly(Mask.DomainOnly mask);

  /** Of {@link Mask.SignOnly}. */
  T signOnly(Mask.SignOnly mask);

  /** Of {@link Mask.Zero}. */
  T zero(Mask.Zero mask);

  /** Of {@link Mask.RoundTo}. */
  T roundTo(Mask.RoundTo mask);

  /** Of {@link Mask.YearOnly}. */
  T yearOnly(Mask.YearOnly mask);

  /** Of {@link Mask.MonthOnly}. */
  T monthOnly(Mask.MonthOnly mask);
}
