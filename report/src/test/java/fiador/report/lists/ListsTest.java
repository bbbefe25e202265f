package fiador.report.lists;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.Account;
import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Sights.Seal;
import fiador.grants.TinyEstate;
import fiador.refusal.BadInput;
import fiador.report.rows.Format;
import fiador.report.shown.Palette;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import fiador.report.shown.ToneStream;
import fiador.selection.Selection;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Each list says what the survey holds, to people and to programs. */
final class ListsTest {
  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui", "boss")
          .roles("analyst", "reader")
          .power("boss", Power.SUPERUSER)
          .memberBy("boss", "ines", "analyst", Membership.of(true, true, true))
          .member("analyst", "reader")
          .account(
              "rui",
              new Account(true, null, "on leave")
                  .withLimits(
                      Map.of(
                          AccountLimit.CONNECTIONS,
                          5,
                          AccountLimit.ENCRYPTED,
                          AccountLimit.BY_TLS)))
          .owned(NodeKind.SCHEMA, "d.s", "boss")
          .node(NodeKind.TABLE, "d.s.t", "a", "b")
          .grantBy("boss", "reader", "select", "d.s.t")
          .grant("analyst", "update*", "d.s.t", "b")
          .grant("PUBLIC", "usage", "d.s")
          .later("boss", "d.s", "select", "reader")
          .deny("rui", "select", "d.s.t");

  private interface Narrowed {
    Selection by(Selection all) throws BadInput;
  }

  private static String list(String name, Access access, Format format, Narrowed narrowed)
      throws IOException, BadInput {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    PrintStream print = new PrintStream(out, true, StandardCharsets.UTF_8);
    Shown shown = new Shown(access, format == Format.TEXT);
    Selection selection = narrowed.by(new Selection(access));
    Source source = new Source(access, selection, shown, Instant.ofEpochSecond(600), false);
    Lists.write(name, source, format, 100, print);
    return Tone.plain(out.toString(StandardCharsets.UTF_8));
  }

  private String csv(String name, Narrowed narrowed) throws IOException, BadInput {
    return list(name, tiny.build(), Format.CSV, narrowed);
  }

  @Test
  void grantsAreAsTheServerKeepsThem() throws Exception {
    assertThat(csv("grants", all -> all).lines())
        .containsExactlyInAnyOrder(
            "grantee,privilege,kind,object,columns,grantable,by,when,made_by,inside,pattern,until,since,or_earlier,label",
            "reader,select,table,d.s.t,,false,boss,now,,,,,,,",
            "analyst,update,table,d.s.t,b,true,,now,,,,,,,",
            "PUBLIC,connect,database,d,,false,,now,,,,,,,",
            "PUBLIC,usage,schema,d.s,,false,,now,,,,,,,",
            "reader,select,schema,d.s,,false,,\"later, every table\",boss,,,,,,");
    assertThat(csv("grants", all -> all.by("boss")).lines()).hasSize(2);
    assertThat(csv("grants", all -> all.role("analyst").privilege("select")).lines()).hasSize(3);
    assertThat(csv("grants", Selection::withoutPublic)).doesNotContain("PUBLIC");
    assertThat(csv("denials", all -> all)).contains("rui,select,table,d.s.t");
  }

  @Test
  void membersAreDirectUntilSomebodyIsNamed() throws Exception {
    assertThat(csv("members", all -> all).lines())
        .contains("ines,user,analyst,,true,true,true,boss,,")
        .noneMatch(line -> line.startsWith("ines,user,reader"));
    assertThat(csv("members", all -> all.role("reader")).lines())
        .contains("analyst,role,reader,,false,true,true,,,", "ines,user,reader,analyst,,,,,,");
    assertThat(csv("members", all -> all.to("ines")).lines()).hasSize(3);
  }

  @Test
  void peopleAndPowers() throws Exception {
    assertThat(csv("users", all -> all))
        .contains("ines,1,0,0,,,,,,,\n")
        .contains(
            "rui,0,0,0,,\"the account is disabled\",,,,\"on leave\",\"connections 5, encrypted\"\n")
        .contains("boss,0,0,1,superuser");
    assertThat(csv("roles", all -> all)).contains("analyst,1,1,1,0").contains("reader,1,0,1,0");
    assertThat(csv("powers", all -> all)).contains("boss,user,superuser");
    assertThat(csv("powers", all -> all.to("ines")).lines()).hasSize(1);
  }

  @Test
  void objectsAndSeals() throws Exception {
    assertThat(csv("objects", all -> all.schema("s")))
        .contains("schema,d.s,boss,,1")
        .contains("table,d.s.t,,2,2");
    Seal seal = new Seal("vault", List.of(tiny.at("d.s")), List.of(tiny.principal("reader")));
    String seals = list("seals", tiny.build().sealed(List.of(seal)), Format.JSONL, all -> all);
    assertThat(seals)
        .contains(
            "\"seal\":\"vault\"", "\"open_to\":[\"reader\"]", "\"passed_by\":[\"boss\",\"rui\"]");
  }

  @Test
  void peopleReadPrivilegesTogetherAndWhatIsAlikeOnce() throws Exception {
    tiny.grantBy("boss", "reader", "insert", "d.s.t").grantBy("boss", "analyst", "delete", "d.s.t");
    String text = list("grants", tiny.build(), Format.TEXT, all -> all.by("boss"));
    assertThat(text)
        .startsWith("3 grants ")
        .contains("grantee   privilege   kind    object")
        .contains("  in every row   grantable no, by boss, when now\n");
  }

  @ParameterizedTest
  @ValueSource(strings = {"grant", "Grants", "policy", "MEMBERS"})
  void aListIsFoundHoweverItIsCalled(String typed) {
    assertThat(Lists.NAMES).contains(Lists.nameOf(typed));
    assertThat(Lists.nameOf("gra")).isNull();
  }

  /** Whoever may name things would have a spreadsheet reckon, or a terminal obey. */
  @ParameterizedTest
  @EnumSource(Format.class)
  void hostileNamesDoNothingInAnyFormat(Format format) throws Exception {
    List<String> hostile =
        List.of("=1+2", "@sum", "a\u202eb", "\u001b[31mred", "x|y`<b>", "new\nline", "-2+3");
    for (String name : hostile) {
      TinyEstate named =
          TinyEstate.postgresql()
              .users(name)
              .roles("role " + name)
              .member(name, "role " + name)
              .power(name, Power.SUPERUSER)
              .grant(name, "connect", "d");
      for (String list : Lists.NAMES) {
        String plain = list(list, named.build(), format, all -> all);
        ByteArrayOutputStream seen = new ByteArrayOutputStream();
        try (ToneStream door = new ToneStream(seen, Palette.NONE)) {
          door.write(plain.getBytes(StandardCharsets.UTF_8));
        }
        String shown = seen.toString(StandardCharsets.UTF_8);
        assertThat(shown).doesNotContain("\u202e", "\u001b");
        if (format == Format.CSV) {
          assertThat(shown.lines()).noneMatch(line -> line.matches("(.*,)?\"?[=@-][^,]*.*"));
        } else if (format == Format.MARKDOWN) {
          assertThat(shown).doesNotContain("<b>").doesNotContain("x|y");
        }
      }
    }
  }

  @Test
  void eachFieldIsInTheFieldsOfItsList() throws Exception {
    Access access = tiny.build();
    Map<String, String> outside = new TreeMap<>();
    for (String name : Lists.NAMES) {
      String[] fields =
          list(name, access, Format.CSV, all -> all).lines().findFirst().get().split(",", -1);
      String rows = list(name, access, Format.JSONL, all -> all);
      java.util.regex.Pattern.compile("[{,]\"(\\w+)\":")
          .matcher(rows)
          .results()
          .filter(found -> !List.of(fields).contains(found.group(1)))
          .forEach(found -> outside.put(name, found.group(1)));
    }
    assertThat(outside).isEmpty();
  }
}
