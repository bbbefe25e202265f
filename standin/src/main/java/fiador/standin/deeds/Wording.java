package fiador.standin.deeds;

import fiador.standin.deeds.DeedParser.NameContext;
import fiador.standin.deeds.DeedParser.NamesContext;
import fiador.standin.deeds.DeedParser.PathContext;
import fiador.standin.deeds.DeedParser.PlaceContext;
import fiador.standin.deeds.DeedParser.PrivilegesContext;
import fiador.standin.deeds.DeedParser.SecretContext;
import fiador.standin.deeds.DeedParser.TargetContext;
import fiador.standin.deeds.DeedParser.WhoContext;
import fiador.standin.deeds.RightDeeds.Written;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Thing;
import fiador.standin.house.House.Folding;
import java.util.List;
import java.util.Locale;
import org.antlr.v4.runtime.ParserRuleContext;
import org.jspecify.annotations.Nullable;

/** What the parts of a statement mean: names, texts, secrets, places, privileges. */
abstract class Wording extends DeedBaseVisitor<Deed> {
  private final Folding folding;

  Wording(Folding folding) {
    this.folding = folding;
  }

  final String name(NameContext name) {
    String written = name.getText();
    return name.QUOTED() == null
        ? folding.of(written)
        : written.substring(1, written.length() - 1).replace("\"\"", "\"");
  }

  final List<String> path(PathContext path) {
    return path.name().stream().map(this::name).toList();
  }

  final @Nullable String who(WhoContext who) {
    return who.EVERYBODY() == null ? name(who.name()) : null;
  }

  static String text(String literal) {
    return literal.substring(1, literal.length() - 1).replace("''", "'");
  }

  static String words(List<? extends ParserRuleContext> words) {
    List<String> all = words.stream().map(word -> word.getText().toLowerCase(Locale.ROOT)).toList();
    return String.join(" ", all);
  }

  static PeopleDeeds.@Nullable Secret secret(@Nullable SecretContext secret) {
    if (secret == null) {
      return null;
    }
    String literal = secret.TEXT().getText();
    return new PeopleDeeds.Secret(text(literal), secret.HASHED() != null, literal);
  }

  final Thing place(Doing doing, PlaceContext place) throws MistakeException {
    if (place.SERVER() != null) {
      return doing.warehouse().server();
    }
    boolean said = !(place.getChild(0) instanceof PathContext);
    String kind = said ? place.getChild(0).getText().toLowerCase(Locale.ROOT) : null;
    return doing.thing(kind, path(place.path()));
  }

  /** What something is given on: a thing, or a label. */
  final Thing target(Doing doing, TargetContext target) throws MistakeException {
    return target.LABEL() == null ? place(doing, target.place()) : doing.label(name(target.name()));
  }

  final List<String> names(@Nullable NamesContext names) {
    return names == null ? List.of() : names.name().stream().map(this::name).toList();
  }

  final List<Written> written(PrivilegesContext privileges) {
    return privileges.privilege().stream()
        .map(one -> new Written(words(one.word()), one.name().stream().map(this::name).toList()))
        .toList();
  }
}
