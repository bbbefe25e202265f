package fiador.grants;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.PackedReader;
import fiador.columns.PackedWriter;
import fiador.estate.AccountLimit;
import fiador.estate.ColumnType;
import fiador.estate.Estate;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Privilege;
import fiador.estate.Secret;
import fiador.grants.rules.Activation;
import fiador.grants.rules.Folding;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.NameRules;
import fiador.grants.rules.Ownership;
import java.time.Instant;
import java.util.List;

/**
 * Lays an {@link Access} down in columns and takes it up again, so that a question reads no more of
 * it than it needs. What comes back answers as what was laid down.
 */
public final class AccessColumns {
  private AccessColumns() {}

  /**
   * How many texts and column sets belong to an estate: others may be added to it while questions
   * are answered.
   */
  public record Extents(int texts, int columnSets) {
    /** What an estate has now. */
    public static Extents of(Access access) {
      return new Extents(access.names().size(), access.columnSets().size());
    }
  }

  /**
   * Lays it down. Cost: its size.
   *
   * @param access as it was built or taken up: nothing in it may be supposed
   * @param extents what belonged to it when it was built
   * @throws IllegalStateException when something in it is supposed
   */
  public static void put(Access access, Extents extents, ColumnSink sink) {
    access.estate().put(extents.texts(), sink);
    access.columnSets().put(extents.columnSets(), sink);
    access.memberships().put(sink);
    access.grants().put("grants", sink);
    access.denials().put("denials", sink);
    access.reads().put(sink);
    PackedWriter rest = new PackedWriter();
    rest.text(words());
    put(access.about(), rest);
    RulesColumns.put(access.about(), access.rules(), rest);
    rest.each(access.later(), later -> put(later, rest));
    rest.each(access.patterns(), pattern -> put(pattern, rest));
    rest.each(
        access.seen().beside(),
        one -> rest.number(one.principal()).number(one.tie().ordinal()).text(one.what()));
    rest.each(access.seen().unseen(), one -> rest.text(one.what()).text(one.why()));
    AbroadColumns.put(access.seen().abroad(), rest);
    rest.put("rest", sink);
    SightColumns.put(access.sights(), sink);
  }

  /**
   * Takes it up. Cost: what it has of everything but principals, things, memberships and grants;
   * where accounts have hosts, also the principals.
   *
   * @throws IllegalArgumentException when it is of a kind of server that is not known, or numbers
   *     mean something else now
   */
  public static Access take(ColumnSource source) {
    Estate estate = Estate.take(source);
    PackedReader rest = new PackedReader("rest", source);
    if (!rest.text().equals(words())) {
      throw new IllegalArgumentException("it was laid down by another version");
    }
    Origin about = origin(rest);
    HouseRules rules = RulesColumns.take(about, rest);
    List<LaterGrant> later = List.copyOf(rest.list(() -> later(rest)));
    List<SchemaPattern> patterns = List.copyOf(rest.list(() -> pattern(rest)));
    List<Seen.Beside> beside =
        rest.list(
            () -> new Seen.Beside(rest.number(), Seen.Tie.values()[rest.number()], rest.text()));
    List<Seen.Unseen> unseen = rest.list(() -> new Seen.Unseen(rest.text(), rest.text()));
    Abroad abroad = AbroadColumns.take(rest);
    boolean byHost = rules.has(HouseFact.ACCOUNTS_BY_HOST);
    return new Access(
        about,
        rules,
        estate,
        Memberships.take(source),
        Grants.take("grants", source),
        Grants.take("denials", source),
        ColumnSets.take(source),
        Reads.take(source),
        later,
        patterns,
        byHost ? new Accounts(estate, patterns) : null,
        SightColumns.take(source),
        new Seen(List.copyOf(beside), List.copyOf(unseen), abroad));
  }

  /** What numbers stand for, in their order. */
  private static String words() {
    StringBuilder words = new StringBuilder();
    for (Enum<?>[] all :
        List.<Enum<?>[]>of(
            Privilege.values(),
            NodeKind.values(),
            NodeFact.values(),
            ColumnType.values(),
            PrincipalKind.values(),
            Power.values(),
            Secret.values(),
            Seen.Tie.values(),
            Abroad.Carrier.values(),
            Activation.values(),
            Ownership.values(),
            Folding.values(),
            NameRules.Unit.values(),
            AccountLimit.values())) {
      for (Enum<?> each : all) {
        words.append(each.name()).append(' ');
      }
    }
    return words.toString();
  }

  private static void put(Origin about, PackedWriter rest) {
    rest.text(about.server()).text(about.kind()).text(about.version()).text(about.identity());
    Instant taken = about.taken();
    rest.flag(taken != null);
    if (taken != null) {
      rest.bits(taken.getEpochSecond()).number(taken.getNano());
    }
    rest.flag(about.recalled()).flag(about.supposed());
  }

  private static Origin origin(PackedReader rest) {
    String server = rest.text();
    String kind = rest.text();
    String version = rest.text();
    String identity = rest.text();
    Instant taken = rest.flag() ? Instant.ofEpochSecond(rest.bits(), rest.number()) : null;
    return new Origin(server, kind, version, taken, rest.flag(), rest.flag(), identity);
  }

  private static void put(LaterGrant later, PackedWriter rest) {
    rest.number(later.creator())
        .number(later.in())
        .number(later.kind().ordinal())
        .flag(later.replaces())
        .each(
            later.given(),
            each -> rest.number(each.grantee()).bits(each.privileges()).bits(each.grantable()));
  }

  private static LaterGrant later(PackedReader rest) {
    return new LaterGrant(
        rest.number(),
        rest.number(),
        NodeKind.at(rest.number()),
        rest.flag(),
        List.copyOf(
            rest.list(() -> new LaterGrant.Given(rest.number(), rest.bits(), rest.bits()))));
  }

  private static void put(SchemaPattern pattern, PackedWriter rest) {
    rest.number(pattern.grantee())
        .text(pattern.pattern())
        .bits(pattern.privileges())
        .bits(pattern.grantable());
  }

  private static SchemaPattern pattern(PackedReader rest) {
    return new SchemaPattern(rest.number(), rest.text(), rest.bits(), rest.bits());
  }
}
