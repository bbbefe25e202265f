package fiador.standin.deeds;

import fiador.standin.deeds.DeedParser.NameContext;
import fiador.standin.deeds.RightDeeds.LaterOn;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.Principal.Sort;
import fiador.standin.house.House.Folding;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import org.antlr.v4.runtime.BaseErrorListener;
import org.antlr.v4.runtime.CharStream;
import org.antlr.v4.runtime.CharStreams;
import org.antlr.v4.runtime.CommonTokenStream;
import org.antlr.v4.runtime.RecognitionException;
import org.antlr.v4.runtime.Recognizer;
import org.antlr.v4.runtime.misc.Interval;
import org.jspecify.annotations.Nullable;

/** Reads a statement about accounts, rights and things. */
public final class DeedReader extends Wording {
  private static final Set<String> FIRST =
      Set.of(
          "create", "drop", "alter", "grant", "revoke", "refuse", "lift", "set", "let", "keep",
          "act", "veil", "unveil", "note", "seal", "unseal", "put", "take");

  private final CharStream text;

  private DeedReader(Folding folding, CharStream text) {
    super(folding);
    this.text = text;
  }

  /** Whether a statement is one of these, by its first word. */
  public static boolean isDeed(String statement) {
    String[] words = statement.strip().split("[^A-Za-z]", 2);
    return FIRST.contains(words[0].toLowerCase(Locale.ROOT));
  }

  /**
   * What a statement says.
   *
   * @throws MistakeException when it is none
   */
  public static Deed read(String statement, Folding folding) throws MistakeException {
    CharStream text = CharStreams.fromString(statement);
    List<String> wrong = new ArrayList<>();
    BaseErrorListener first =
        new BaseErrorListener() {
          @Override
          public void syntaxError(
              Recognizer<?, ?> recognizer,
              @Nullable Object symbol,
              int line,
              int column,
              String message,
              @Nullable RecognitionException cause) {
            wrong.add("line " + line + ", column " + (column + 1) + ": " + message);
          }
        };
    DeedLexer lexer = new DeedLexer(text);
    lexer.removeErrorListeners();
    lexer.addErrorListener(first);
    DeedParser parser = new DeedParser(new CommonTokenStream(lexer));
    parser.removeErrorListeners();
    parser.addErrorListener(first);
    DeedParser.StatementContext read = parser.statement();
    if (!wrong.isEmpty()) {
      throw new MistakeException("this is no statement: " + wrong.get(0));
    }
    return new DeedReader(folding, text).visit(read.deed());
  }

  // people

  @Override
  public Deed visitCreateUser(DeedParser.CreateUserContext at) {
    return doing -> PeopleDeeds.createUser(doing, name(at.name()), secret(at.secret()));
  }

  @Override
  public Deed visitCreateRole(DeedParser.CreateRoleContext at) {
    return doing -> PeopleDeeds.createRole(doing, name(at.name()));
  }

  @Override
  public Deed visitDropPrincipal(DeedParser.DropPrincipalContext at) {
    Sort sort = at.USER() == null ? Sort.ROLE : Sort.USER;
    return doing -> PeopleDeeds.drop(doing, sort, name(at.name()));
  }

  @Override
  public Deed visitSetSecret(DeedParser.SetSecretContext at) {
    PeopleDeeds.Secret secret = secret(at.secret());
    return doing -> {
      if (secret != null) {
        PeopleDeeds.setSecret(doing, name(at.name()), secret);
      }
    };
  }

  @Override
  public Deed visitLock(DeedParser.LockContext at) {
    return doing -> PeopleDeeds.lock(doing, name(at.name()), at.LOCK() != null);
  }

  @Override
  public Deed visitRename(DeedParser.RenameContext at) {
    Sort sort = at.USER() == null ? Sort.ROLE : Sort.USER;
    return doing -> PeopleDeeds.rename(doing, sort, name(at.name(0)), name(at.name(1)));
  }

  @Override
  public Deed visitDefaultRole(DeedParser.DefaultRoleContext at) {
    String role = at.NONE() == null ? name(at.name(1)) : null;
    return doing -> PeopleDeeds.defaultRole(doing, name(at.name(0)), role);
  }

  @Override
  public Deed visitGiveRole(DeedParser.GiveRoleContext at) {
    boolean option = at.ADMIN() != null;
    return doing -> PeopleDeeds.giveRole(doing, name(at.name()), who(at.who()), option);
  }

  @Override
  public Deed visitTakeRole(DeedParser.TakeRoleContext at) {
    boolean option = at.ADMIN() != null;
    return doing -> PeopleDeeds.takeRole(doing, name(at.name()), who(at.who()), option);
  }

  @Override
  public Deed visitGivePower(DeedParser.GivePowerContext at) {
    String power = text(at.TEXT().getText());
    return doing -> PeopleDeeds.setPower(doing, power, name(at.name()), true);
  }

  @Override
  public Deed visitTakePower(DeedParser.TakePowerContext at) {
    String power = text(at.TEXT().getText());
    return doing -> PeopleDeeds.setPower(doing, power, name(at.name()), false);
  }

  @Override
  public Deed visitSetRole(DeedParser.SetRoleContext at) {
    return doing -> {
      List<Principal> roles = new ArrayList<>();
      for (NameContext role : at.name()) {
        roles.add(doing.of(Sort.ROLE, name(role)));
      }
      doing.session(doing.judge().with(doing.session(), roles));
    };
  }

  @Override
  public Deed visitActAs(DeedParser.ActAsContext at) {
    return doing -> PeopleDeeds.actAs(doing, name(at.name()));
  }

  // rights

  @Override
  public Deed visitGrant(DeedParser.GrantContext at) {
    boolean option = at.OPTION() != null;
    return doing ->
        RightDeeds.give(
            doing, written(at.privileges()), target(doing, at.target()), who(at.who()), option);
  }

  @Override
  public Deed visitRevoke(DeedParser.RevokeContext at) {
    boolean option = at.OPTION() != null;
    return doing ->
        RightDeeds.take(
            doing, written(at.privileges()), target(doing, at.target()), who(at.who()), option);
  }

  @Override
  public Deed visitRefuse(DeedParser.RefuseContext at) {
    return doing ->
        RightDeeds.refuse(
            doing, written(at.privileges()), target(doing, at.target()), who(at.who()), false);
  }

  @Override
  public Deed visitLift(DeedParser.LiftContext at) {
    return doing ->
        RightDeeds.refuse(
            doing, written(at.privileges()), target(doing, at.target()), who(at.who()), true);
  }

  @Override
  public Deed visitGrantLater(DeedParser.GrantLaterContext at) {
    boolean option = at.OPTION() != null;
    return doing ->
        RightDeeds.later(
            doing,
            written(at.privileges()),
            new LaterOn(words(List.of(at.kinds())), place(doing, at.place())),
            who(at.who()),
            option);
  }

  @Override
  public Deed visitRevokeLater(DeedParser.RevokeLaterContext at) {
    return doing ->
        RightDeeds.noLonger(
            doing,
            written(at.privileges()),
            new LaterOn(words(List.of(at.kinds())), place(doing, at.place())),
            who(at.who()));
  }

  // things

  @Override
  public Deed visitCreateDatabase(DeedParser.CreateDatabaseContext at) {
    return doing -> ThingDeeds.createDatabase(doing, name(at.name()));
  }

  @Override
  public Deed visitCreateSchema(DeedParser.CreateSchemaContext at) {
    return doing -> ThingDeeds.createSchema(doing, path(at.path()));
  }

  @Override
  public Deed visitCreateTable(DeedParser.CreateTableContext at) {
    List<ThingDeeds.Column> columns = columns(at.column());
    return doing -> ThingDeeds.createTable(doing, path(at.path()), columns);
  }

  private List<ThingDeeds.Column> columns(List<DeedParser.ColumnContext> written) {
    return written.stream()
        .map(
            column -> {
              String type = words(column.type().word());
              String size = column.type().getText().replaceFirst("^[^(]*", "");
              return new ThingDeeds.Column(name(column.name()), type, size);
            })
        .toList();
  }

  @Override
  public Deed visitCreateFarTable(DeedParser.CreateFarTableContext at) {
    List<ThingDeeds.Column> columns = columns(at.column());
    List<String> there = path(at.path(1));
    return doing ->
        PlaceDeeds.createTable(doing, path(at.path(0)), columns, name(at.name()), there);
  }

  // veils

  private String inside(DeedParser.BracketsContext brackets) {
    int from = brackets.getStart().getStopIndex() + 1;
    return text.getText(Interval.of(from, brackets.getStop().getStartIndex() - 1)).strip();
  }

  @Override
  public Deed visitVeilRows(DeedParser.VeilRowsContext at) {
    String condition = inside(at.brackets());
    return doing -> VeilDeeds.rows(doing, place(doing, at.place()), condition);
  }

  @Override
  public Deed visitVeilColumn(DeedParser.VeilColumnContext at) {
    String value = inside(at.brackets());
    return doing -> VeilDeeds.column(doing, place(doing, at.place()), name(at.name()), value);
  }

  @Override
  public Deed visitUnveil(DeedParser.UnveilContext at) {
    return at.ROWS() == null
        ? doing -> VeilDeeds.column(doing, place(doing, at.place()), name(at.name()), null)
        : doing -> VeilDeeds.rows(doing, place(doing, at.place()), null);
  }

  @Override
  public Deed visitNote(DeedParser.NoteContext at) {
    String note = text(at.TEXT().getText());
    return doing -> VeilDeeds.note(doing, place(doing, at.place()), note);
  }

  @Override
  public Deed visitSetAttribute(DeedParser.SetAttributeContext at) {
    List<String> texts = at.TEXT().stream().map(each -> text(each.getText())).toList();
    return doing ->
        VeilDeeds.attribute(
            doing,
            doing.of(Sort.USER, name(at.name())),
            texts.get(0),
            texts.subList(1, texts.size()));
  }

  // seals

  @Override
  public Deed visitSeal(DeedParser.SealContext at) {
    return doing -> SealDeeds.seal(doing, place(doing, at.place()));
  }

  @Override
  public Deed visitUnseal(DeedParser.UnsealContext at) {
    return doing -> SealDeeds.unseal(doing, place(doing, at.place()));
  }

  // labels

  @Override
  public Deed visitPutLabel(DeedParser.PutLabelContext at) {
    List<String> columns = names(at.names());
    return doing -> LabelDeeds.put(doing, name(at.name()), place(doing, at.place()), columns);
  }

  @Override
  public Deed visitTakeLabel(DeedParser.TakeLabelContext at) {
    List<String> columns = names(at.names());
    return doing -> LabelDeeds.take(doing, name(at.name()), place(doing, at.place()), columns);
  }

  // other servers

  @Override
  public Deed visitCreatePlace(DeedParser.CreatePlaceContext at) {
    String database = at.DATABASE() == null ? null : name(at.name(1));
    String address = text(at.TEXT().getText());
    return doing -> PlaceDeeds.create(doing, name(at.name(0)), address, database);
  }

  @Override
  public Deed visitDropPlace(DeedParser.DropPlaceContext at) {
    return doing -> PlaceDeeds.drop(doing, name(at.name()));
  }

  @Override
  public Deed visitLetIn(DeedParser.LetInContext at) {
    PeopleDeeds.Secret secret = Objects.requireNonNull(secret(at.secret()));
    return doing ->
        PlaceDeeds.letIn(doing, who(at.who()), name(at.name(0)), name(at.name(1)), secret);
  }

  @Override
  public Deed visitKeepOut(DeedParser.KeepOutContext at) {
    return doing -> PlaceDeeds.keepOut(doing, who(at.who()), name(at.name()));
  }

  @Override
  public Deed visitCreateView(DeedParser.CreateViewContext at) {
    Interval query =
        Interval.of(at.query().getStart().getStartIndex(), at.query().getStop().getStopIndex());
    boolean asAsker = at.ASKER() != null;
    return doing -> ThingDeeds.createView(doing, path(at.path()), text.getText(query), asAsker);
  }

  @Override
  public Deed visitDropThing(DeedParser.DropThingContext at) {
    String kind = at.getChild(1).getText().toLowerCase(Locale.ROOT);
    return doing -> ThingDeeds.drop(doing, kind, path(at.path()));
  }

  @Override
  public Deed visitChangeOwner(DeedParser.ChangeOwnerContext at) {
    return doing -> ThingDeeds.changeOwner(doing, place(doing, at.place()), name(at.name()));
  }
}
