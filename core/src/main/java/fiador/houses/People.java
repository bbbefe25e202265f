package fiador.houses;

import fiador.estate.Account;
import fiador.estate.EstateBuilder;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.Secret;
import fiador.grants.AccessBuilder;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.objects.Object2IntOpenHashMap;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import org.jspecify.annotations.Nullable;

/** Users, roles, and who holds which. */
final class People {
  private final AccessBuilder builder;
  private final EstateBuilder estate;
  private final HouseSheet sheet;
  private final Object2IntOpenHashMap<String> ids = new Object2IntOpenHashMap<>();
  private final Object2IntOpenHashMap<String> kinds = new Object2IntOpenHashMap<>();

  People(AccessBuilder builder, HouseSheet sheet) {
    this.builder = builder;
    this.estate = builder.estate();
    this.sheet = sheet;
    ids.defaultReturnValue(None.PRINCIPAL);
    if (sheet.reading().everybody() != null) {
      ids.put(sheet.reading().everybody(), Principals.PUBLIC);
    }
  }

  void principal(BoundSource source, SourceRow row) throws BadRowException {
    String name = source.needed("name", row);
    if (name.equals(sheet.reading().everybody())) {
      return;
    }
    String kind = source.needed("kind", row);
    if (!kind.equals("user") && !kind.equals("role")) {
      throw source.bad("kind", "\"" + kind + "\" is neither user nor role");
    }
    if (ids.containsKey(name)) {
      throw source.bad("name", "there is a user or role \"" + name + "\" already");
    }
    boolean user = kind.equals("user");
    int powers = powers(source, "powers", row);
    int id =
        estate.principal(user ? PrincipalKind.USER : PrincipalKind.ROLE, name, powers, None.NODE);
    ids.put(name, id);
    kinds.put(name, user ? 1 : 0);
    estate.account(
        id,
        new Account(
            source.flag("disabled", false, row),
            time(source, "until", row),
            source.some("comment", row),
            false,
            secret(source, row),
            time(source, "secret_since", row)));
  }

  private static Secret secret(BoundSource source, SourceRow row) throws BadRowException {
    String word = source.some("secret", row);
    Secret secret = word == null ? Secret.UNKNOWN : Secret.named(word);
    if (secret == null) {
      throw source.bad("secret", "\"" + word + "\" is not one of none, outdated, sound, unknown");
    }
    return secret;
  }

  void power(BoundSource source, SourceRow row) throws BadRowException {
    int id = find(source, "name", row);
    int powers = powers(source, "power", row);
    for (Power power : Power.values()) {
      if ((powers & power.bit()) != 0) {
        estate.power(id, power);
      }
    }
  }

  private int powers(BoundSource source, String field, SourceRow row) throws BadRowException {
    String words = source.some(field, row);
    int bits = 0;
    for (String word : words == null ? new String[0] : words.split(",", -1)) {
      Power power = Power.named(word.strip());
      if (power == null) {
        throw source.bad(field, "\"" + word.strip() + "\" is no power");
      }
      bits |= power.bit();
    }
    return bits;
  }

  void membership(BoundSource source, SourceRow row) throws BadRowException {
    int member = find(source, "member", row);
    int role = find(source, "role", row);
    boolean account =
        member == Principals.PUBLIC
            ? sheet.rules().has(HouseFact.EVERYBODY_SWITCHES)
            : kinds.getInt(source.needed("member", row)) == 1;
    Activation activation = sheet.rules().activation();
    boolean later = activation == Activation.ONE_AT_A_TIME && account;
    boolean on = source.flag("on", !later, row);
    boolean switches =
        source.flag("switch", activation == Activation.ALL_ON ? false : later || on, row);
    if (activation == Activation.ONE_AT_A_TIME && !account) {
      // what roles hold comes along with them, and nobody switches to it through them
      switches = source.flag("switch", false, row);
    }
    Instant until = time(source, "until", row);
    Membership how =
        new Membership(
            source.flag("admin", false, row),
            on,
            switches,
            until == null ? Terms.FOREVER : until.getEpochSecond(),
            false);
    builder.member(member, role, how, optional(source, "grantor", row));
  }

  void attribute(BoundSource source, SourceRow row) throws BadRowException {
    find(source, "of", row);
    String value = source.get("value", row);
    builder
        .sights()
        .attribute(
            0,
            source.needed("of", row),
            source.needed("attribute", row),
            value == null ? "" : value);
  }

  /** The principal that a field names. */
  int find(BoundSource source, String field, SourceRow row) throws BadRowException {
    String name = source.needed(field, row);
    int id = ids.getInt(name);
    if (id < 0) {
      throw new UnknownException(source.bad(field, "there is no user or role \"" + name + "\""));
    }
    return id;
  }

  /** The same, or none where nothing stands there or nobody of that name is there. */
  int optional(BoundSource source, String field, SourceRow row) throws BadRowException {
    String name = source.some(field, row);
    return name == null ? None.PRINCIPAL : ids.getInt(name);
  }

  /** A day, a time of day in UTC where no zone stands there, or an instant. */
  static @Nullable Instant time(BoundSource source, String field, SourceRow row)
      throws BadRowException {
    String text = source.some(field, row);
    if (text == null) {
      return null;
    }
    String written = text.strip().replaceFirst("^(\\d{4}-\\d\\d-\\d\\d) ", "$1T");
    // hours alone, and hours and minutes without a colon, are zones too
    String zoned = written.replaceFirst("(:\\d\\d.*[+-]\\d\\d):?(\\d\\d)?$", "$1:$2");
    zoned = zoned.endsWith(":") && !written.endsWith(":") ? zoned + "00" : zoned;
    try {
      if (!written.contains("T")) {
        return LocalDate.parse(written).atStartOfDay().toInstant(ZoneOffset.UTC);
      }
      boolean hasZone = !zoned.equals(written) || zoned.matches(".*(Z|[+-]\\d\\d:\\d\\d)");
      return hasZone
          ? OffsetDateTime.parse(zoned).toInstant()
          : LocalDateTime.parse(written).toInstant(ZoneOffset.UTC);
    } catch (DateTimeException wrong) {
      throw source.bad(field, "\"" + text + "\" is no time; write 2027-03-31T12:00:00Z");
    }
  }
}
