package fiador.files.charter;

import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.wanted.Period;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Grant;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.estate.DottedName;
import fiador.estate.Privilege;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml;
import fiador.grants.rules.HouseRules;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Says revocations as edits of grant sentences. A sentence can be edited where it is about single
 * things and stands for one role alone; what comes from a pattern, or from "every ... in", means
 * more than what is to go and is left. A sentence about several things becomes several where they
 * no longer get the same.
 */
final class SentenceEdits {
  private final HouseRules rules;
  private final Map<Place, Written> editable = new LinkedHashMap<>();
  private final List<Grant> others = new ArrayList<>();

  /** A sentence, and what of it stays on each of the things it is about. */
  private static final class Written {
    private final String role;
    private final String text;
    private final boolean grantOption;
    private final Period when;
    private final Map<Single, List<Action>> stays = new LinkedHashMap<>();
    private boolean edited;

    Written(String text, Grant first) {
      this.role = first.grantee();
      this.text = text;
      this.grantOption = first.grantOption();
      this.when = first.when();
    }

    /** What stands there instead; empty when nothing of it stays. */
    List<String> sentences() {
      Map<List<Action>, List<Single>> alike = new LinkedHashMap<>();
      stays.forEach(
          (thing, actions) -> {
            if (!actions.isEmpty()) {
              alike.computeIfAbsent(actions, none -> new ArrayList<>()).add(thing);
            }
          });
      List<String> said = new ArrayList<>();
      alike.forEach(
          (actions, things) ->
              said.add(
                  joined(actions, Action::text)
                      + " on "
                      + joined(things, Single::text)
                      + (grantOption ? " with grant option" : "")
                      + when.text()));
      return said;
    }

    private static <T> String joined(List<T> parts, Function<T, String> text) {
      return parts.stream().map(text).collect(Collectors.joining(", "));
    }
  }

  /**
   * The sentences of a charter.
   *
   * @param textAt what stands at a place, to the end of its line; null where an edit cannot be
   */
  SentenceEdits(Charter charter, HouseRules rules, Function<Place, String> textAt) {
    this.rules = rules;
    Map<Place, List<Grant>> byPlace = new LinkedHashMap<>();
    for (Grant grant : charter.wanted().grants()) {
      byPlace.computeIfAbsent(grant.place(), none -> new ArrayList<>()).add(grant);
    }
    byPlace.forEach(
        (place, grants) -> {
          String text = textAt.apply(place);
          if (text == null || !isWrittenSo(place, text, grants)) {
            others.addAll(grants);
            return;
          }
          Written written = new Written(text, grants.get(0));
          grants.forEach(
              grant ->
                  written.stays.put((Single) grant.target(), new ArrayList<>(grant.actions())));
          editable.put(place, written);
        });
  }

  /** Whether the text says just these grants, and no pattern made them from it. */
  private static boolean isWrittenSo(Place place, String text, List<Grant> grants) {
    for (Grant grant : grants) {
      boolean whole =
          grant.actions().stream().anyMatch(each -> each.privilege() == null || each.except());
      boolean single = grant.target() instanceof Single && !grant.later();
      if (whole || !single || !grant.grantee().equals(grants.get(0).grantee())) {
        return false;
      }
    }
    Sentence read = SentenceReader.read(new Yaml.Scalar(text, false, place), new Mistakes());
    return read != null
        && read.actions().equals(grants.get(0).actions())
        && read.targets().equals(grants.stream().map(Grant::target).toList());
  }

  /** Takes it out of the sentences that give it; false, and nothing done, where that cannot be. */
  boolean take(Revoke revoke) {
    for (Privilege privilege : Privilege.values()) {
      boolean meant = (revoke.privileges() & privilege.bit()) != 0;
      if (meant && (comesOtherwise(revoke, privilege) || !isSaid(revoke, privilege))) {
        return false;
      }
    }
    for (Written written : editable.values()) {
      written.stays.forEach(
          (thing, actions) -> {
            if (isAbout(written.role, thing, revoke)) {
              List<Action> left = actions.stream().map(each -> without(each, revoke)).toList();
              written.edited |= !left.equals(actions);
              actions.clear();
              left.stream().filter(each -> each != null).forEach(actions::add);
            }
          });
    }
    return true;
  }

  private boolean isSaid(Revoke revoke, Privilege privilege) {
    List<String> asked = new ArrayList<>(revoke.columns());
    boolean found = false;
    for (Written written : editable.values()) {
      for (Map.Entry<Single, List<Action>> each : written.stays.entrySet()) {
        for (Action action : each.getValue()) {
          boolean matches =
              action.privilege() == privilege && isAbout(written.role, each.getKey(), revoke);
          if (matches && action.columns().isEmpty() && !revoke.columns().isEmpty()) {
            return false;
          }
          if (matches && action.columns().isEmpty() == revoke.columns().isEmpty()) {
            asked.removeIf(column -> names(action).contains(column));
            found = true;
          }
        }
      }
    }
    return found && asked.isEmpty();
  }

  private List<String> names(Action action) {
    return action.columns().stream().map(this::stored).toList();
  }

  /** What stays of an action; null for nothing. */
  private Action without(Action action, Revoke revoke) {
    boolean sort = action.columns().isEmpty() == revoke.columns().isEmpty();
    if (!sort || (revoke.privileges() & action.privilege().bit()) == 0) {
      return action;
    }
    List<String> columns =
        action.columns().stream()
            .filter(column -> !revoke.columns().contains(stored(column)))
            .toList();
    return columns.isEmpty() ? null : new Action(action.privilege(), columns);
  }

  /** Whether a sentence that is not edited would give it back. */
  private boolean comesOtherwise(Revoke revoke, Privilege privilege) {
    return others.stream()
        .filter(grant -> isNamed(grant.grantee(), revoke.grantee()))
        .filter(
            grant ->
                grant.actions().stream()
                    .anyMatch(each -> each.privilege() == null || each.privilege() == privilege))
        .anyMatch(
            grant ->
                grant.target() instanceof Every every
                    ? every.container().isEmpty() || isInside(revoke.on(), every.container())
                    : isAbout(grant.grantee(), (Single) grant.target(), revoke));
  }

  private boolean isInside(On on, String container) {
    List<String> names = parts(container);
    boolean schema = on.parts().size() > 1 && on.parts().get(0).equals(names.get(names.size() - 1));
    return schema || names.size() == 1 && names.get(0).equals(on.database());
  }

  private boolean isAbout(String role, Single thing, Revoke revoke) {
    if (!isNamed(role, revoke.grantee())) {
      return false;
    }
    if (thing.kind() != null && thing.kind() != revoke.on().kind()) {
      return false;
    }
    List<String> named = parts(thing.name());
    List<String> full = new ArrayList<>(revoke.on().parts());
    if (named.size() > full.size() && revoke.on().database() != null) {
      full.add(0, revoke.on().database());
    }
    return named.equals(full);
  }

  private List<String> parts(String name) {
    return name.isEmpty()
        ? List.of()
        : DottedName.split(name).stream()
            .map(part -> part.quoted() ? part.text() : rules.fold(part.text()))
            .toList();
  }

  private boolean isNamed(String written, String stored) {
    return stored.equals(written) || stored.equals(rules.fold(written));
  }

  private String stored(String column) {
    return parts(column).get(0);
  }

  /** The edits: by place, the text there and what stands there instead. */
  List<CharterPatch.Edit> edits() {
    List<CharterPatch.Edit> found = new ArrayList<>();
    editable.forEach(
        (place, written) -> {
          if (written.edited) {
            found.add(new CharterPatch.Edit(place, written.text, written.sentences()));
          }
        });
    return found;
  }
}
