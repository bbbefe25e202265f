package fiador.work.sweeping;

import fiador.evidence.Identities;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a sweep is to do.
 *
 * @param surveys the folder of the surveys, as a path or an address
 * @param into where the tables are kept
 * @param people whom the organisation knows; null where no list is at hand
 * @param labels which things carry a label
 * @param cores how many threads work, where the sweep runs in this process
 * @param again whether servers whose surveys did not change are worked out too
 * @param now what is past its time is told by this
 */
public record Order(
    String surveys,
    String into,
    @Nullable Identities people,
    List<LabelRule> labels,
    int cores,
    boolean again,
    Instant now) {}
