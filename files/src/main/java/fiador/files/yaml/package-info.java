/**
 * YAML files that people write: {@link fiador.files.yaml.YamlReader} makes a tree whose parts know
 * where they stand, {@link fiador.files.yaml.Shapes} takes it for what it should be, and {@link
 * fiador.files.yaml.Mistakes} collects everything that is something else.
 */
package fiador.files.yaml;
