package fiador.work.sweeping;

import java.io.Serializable;

/**
 * Which things carry a label.
 *
 * @param label the label
 * @param server the server, or a pattern of servers; empty for all
 * @param object a dotted name or pattern: of a schema, for all that is in it; of a table or view;
 *     or of a column
 */
public record LabelRule(String label, String server, String object) implements Serializable {}
