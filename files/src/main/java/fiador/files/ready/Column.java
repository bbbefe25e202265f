package fiador.files.ready;

/**
 * Where a column stands in a ready form.
 *
 * @param isText whether it has characters; else ints
 * @param size how many
 * @param start where its first piece begins, in bytes from the beginning of the file
 * @param index where its index begins: for each piece where it ends, counted from {@code start},
 *     and its checksum, four bytes each
 * @param checksum the checksum of the index
 */
record Column(String name, boolean isText, int size, long start, long index, int checksum) {
  /** How many bytes of the index each piece has. */
  static final int ENTRY = 8;
}
