package fiador.files.charter;

import fiador.changes.wanted.Period;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Target;
import java.util.List;

/**
 * A grant sentence as it was read; names may still hold {@code {variables}} of a pattern.
 *
 * @param actions what
 * @param targets on what
 * @param now whether what exists is meant
 * @param later whether what will be created is meant
 * @param grantOption whether it may be granted on
 * @param madeBy whose later objects are meant; null for anybody's
 * @param when when it is meant
 * @param place where it stands
 */
record Sentence(
    List<Action> actions,
    List<Target> targets,
    boolean now,
    boolean later,
    boolean grantOption,
    String madeBy,
    Period when,
    Place place) {}
