/**
 * The charter: the desired state as YAML in a folder.
 *
 * <p>{@code YamlReader} makes trees that know their places, {@code CharterReader} understands the
 * sections, {@code SentenceReader} the grant sentences (grammar {@code GrantSentence.g4}), {@code
 * CharterLinker} checks that all names lead somewhere and gives the {@link
 * fiador.files.charter.Charter}. No step stops at the first mistake: {@link
 * fiador.files.yaml.Mistakes} collects them all.
 */
package fiador.files.charter;
