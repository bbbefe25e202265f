package fiador.report.pictures;

/** Something that can be drawn on a sheet of its own size. */
interface Drawing {
  double width();

  double height();

  String title();

  /** All it says, in words, for whoever cannot see it. */
  String inWords();

  void on(Sheet sheet);
}
