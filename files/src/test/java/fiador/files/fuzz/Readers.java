package fiador.files.fuzz;

import fiador.estate.NodeKind;
import fiador.files.charter.CharterException;
import fiador.files.charter.CharterReader;
import fiador.files.identities.IdentityException;
import fiador.files.identities.IdentityReader;
import fiador.files.journal.Journal;
import fiador.files.sheets.SheetException;
import fiador.files.sheets.SheetReader;
import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.files.usage.UsageException;
import fiador.files.usage.UsageReader;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.predicates.PredicateException;
import fiador.predicates.PredicateReader;
import fiador.predicates.PredicateText;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/**
 * Each reader of files that others may have written; what is wrong in one must be said, in words.
 */
public enum Readers {
  CHARTER(
      "fiador: 1\nestate: e\nservers:\n  m: {kind: postgresql, url: jdbc:postgresql://h/d, login: a, password: \"${X:-}\"}\n",
      "roles:\n  r: {purpose: duty, includes: [s], may: [\"select (a, b) on s.t, now and later\"]}\nusers:\n  u: {kind: person, roles: [r], until: 2027-01-01}\n",
      "row_policies:\n  p: {on: [s.t], rows: \"a in user.x\", combine: all}\nmask_policies:\n  m: {on: columns s.t.c, mask: {text: stars}}\nproofs: [u can select s.t]\n") {
    @Override
    void read(byte[] input, Path place) throws IOException, CharterException {
      Files.write(place.resolve("fiador.yaml"), input);
      CharterReader.read(place, name -> "x");
    }
  },
  SENTENCE(
      "select, update (a, b) on table s.t, schema x now and later with grant option",
      "all on every table and view labelled secret in billing, later",
      "select except (iban, \"Odd Name\") on \"S\".\"T\"",
      "execute on routine m.add(integer, text)") {
    @Override
    void read(byte[] input, Path place) throws IOException, CharterException {
      String text =
          new String(input, StandardCharsets.UTF_8).replace("\\", "\\\\").replace("\"", "\\\"");
      StringBuilder plain = new StringBuilder();
      text.chars().forEach(c -> plain.append(c < ' ' || c > 0x7e ? '?' : (char) c));
      Files.writeString(
          place.resolve("fiador.yaml"),
          "fiador: 1\nroles: {r: {purpose: duty, may: [\"" + plain + "\"]}}\n");
      CharterReader.read(place, name -> "x");
    }
  },
  PREDICATE(
      "district in user.districts or district in lookup(desk) and not (a = 1)",
      "char_length(substring(a from 1 for 3)) between 1 and 2 or b like 'x%' and c is not null",
      "coalesce(a, b, 'c') || 'x' <> date '2026-01-01' and extract(year from d) + 1 * -2 >= 3.5",
      "holds(\"Odd\") is not true") {
    @Override
    void read(byte[] input, Path place) throws PredicateException {
      PredicateText.of(
          PredicateReader.read(new String(input, StandardCharsets.UTF_8)).expression());
    }
  },
  SURVEY(
      "{\"fiador_survey\":1,\"server\":\"s\",\"kind\":\"postgresql\",\"version\":\"18\",\"taken\":\"2026-01-01T00:00:00Z\"}\n"
          + "{\"principal\":1,\"name\":\"u\",\"kind\":\"user\"}\n{\"node\":0,\"kind\":\"server\",\"name\":\"s\"}\n{\"node\":1,\"in\":0,\"kind\":\"database\",\"name\":\"d\"}\n"
          + "{\"node\":2,\"in\":1,\"kind\":\"schema\",\"name\":\"x\"}\n{\"node\":3,\"in\":2,\"kind\":\"table\",\"name\":\"t\",\"columns\":[\"a\",\"b\"],\"types\":[\"text\",\"integer\"]}\n"
          + "{\"grant\":[\"select\"],\"on\":3,\"to\":1,\"columns\":[0]}\n{\"attribute\":\"k\",\"of\":\"u\",\"in\":1,\"values\":[\"v\"]}\n{\"doubt\":1,\"foreign\":true,\"why\":[\"w\"]}\n"
          + "{\"policies_on\":3,\"table\":3,\"policies\":\"any\\tp\\ttrue\\tfalse\\ta = 1\\n\",\"as_made\":true}\n{\"seal\":\"z\",\"on\":[2],\"open_to\":[1]}\n"
          + "{\"end\":true,\"principals\":2,\"nodes\":4,\"memberships\":0,\"grants\":1}\n") {
    @Override
    void read(byte[] input, Path place) throws IOException, SurveyException {
      SurveyReader.read("survey", new ByteArrayInputStream(input));
    }
  },
  JOURNAL(
      "{\"fiador_journal\":1,\"server\":\"s\",\"identity\":\"7\",\"begun\":\"2026-01-01T00:00:00Z\",\"steps\":2}\n{\"step\":\"create role\",\"role\":\"r\"}\n"
          + "{\"step\":\"grant\",\"privileges\":1,\"on\":{\"kind\":\"TABLE\",\"database\":\"d\",\"parts\":[\"s\",\"t\"],\"procedure\":false},\"columns\":[],\"grantee\":\"r\",\"grant_option\":false}\n"
          + "{\"begins\":[0]}\n{\"done\":[0]}\n{\"finished\":true}\n") {
    @Override
    void read(byte[] input, Path place) throws IOException {
      Journal.read(Files.write(place.resolve("journal"), input));
    }
  },
  SHEET(
      "line,person,answer,remark\n1,ines,keep,\n2,rui,revoke,\"left, long ago\"\n",
      "a;b\n=1;@x\n") {
    @Override
    void read(byte[] input, Path place) throws IOException, SheetException {
      SheetReader.read(Files.write(place.resolve("sheet.csv"), input));
    }
  },
  WORKBOOK(
      "<worksheet xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\"><sheetData>"
          + "<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>line</t></is></c></row><row r=\"2\"><c r=\"A2\"><f>1+1</f><v>2</v></c><c r=\"C2\"><v>1.5</v></c></row></sheetData></worksheet>",
      "<worksheet><sheetData><row r=\"1500000000\"><c r=\"A1\"><v>1</v></c></row></sheetData></worksheet>") {
    @Override
    void read(byte[] input, Path place) throws IOException, SheetException {
      SheetReader.read(Files.write(place.resolve("sheet.xlsx"), workbook(input)));
    }
  },
  LOG(
      "{\"at\":\"2026-01-01T00:00:00Z\",\"user\":\"u\",\"statement\":\"select a from s.t where b = 1\"}\n{\"watched_from\":\"2026-01-01T00:00:00Z\",\"watched_to\":\"2026-02-01T00:00:00Z\"}\n",
      "2026-01-01 00:00:00.000 UTC,\"u\",\"d\",1,\"h\",x,1,\"SELECT\",x,1/1,0,LOG,00000,\"statement: select * from s.t; update s.t set a = 1\",,,,,,,,,\"\"\n",
      "Time                Id Command\tArgument\n260101  0:00:00\t    5 Connect\tu@h on d using TCP\n\t\t    5 Query\tinsert into s.t (a) values (1)\n",
      "20260101 00:00:00,srv,u,h,1,2,QUERY,d,'delete from s.t where a in (select b from s.t)',0\n") {
    @Override
    void read(byte[] input, Path place) throws IOException, UsageException {
      UsageReader.read(ESTATE, List.of(Files.write(place.resolve("log"), input)), note -> {});
    }
  },
  PEOPLE(
      "dn: uid=ines,dc=x\nobjectClass: inetOrgPerson\nuid: ines\ncn: Ines\ncn:: SW5lcw==\ndescription:< file:///etc/hostname\n",
      "{\"Resources\":[{\"userName\":\"ines\",\"active\":true,\"name\":{\"formatted\":\"I\"},\"accounts\":[\"a\"]}]}",
      "key,name,active,accounts\np01,Ines,yes,ines rui\n") {
    @Override
    void read(byte[] input, Path place) throws IOException, IdentityException {
      IdentityReader.read(Files.write(place.resolve("people"), input));
    }
  };

  private static final Access ESTATE =
      TinyEstate.postgresql()
          .users("u")
          .owned(NodeKind.SCHEMA, "d.s", "u")
          .owned(NodeKind.TABLE, "d.s.t", "u", "a", "b")
          .build();

  private final List<String> seeds;

  Readers(String... seeds) {
    this.seeds = List.of(seeds);
  }

  /** Inputs that can be read. */
  public List<String> seeds() {
    return seeds;
  }

  abstract void read(byte[] input, Path place) throws Exception;

  /**
   * Reads an input.
   *
   * @param place a folder to use
   * @throws RuntimeException or an error, when the reader itself failed
   */
  public void tried(byte[] input, Path place) {
    try {
      read(input, place);
    } catch (CharterException
        | PredicateException
        | SurveyException
        | SheetException
        | UsageException
        | IdentityException
        | IOException said) {
      if (said.getMessage() == null && !(said instanceof CharterException)) {
        throw new IllegalStateException("nothing was said", said);
      }
    } catch (RuntimeException fault) {
      throw fault;
    } catch (Exception other) {
      throw new IllegalStateException(other);
    }
  }

  private static byte[] workbook(byte[] sheet) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(out)) {
      part(
          zip,
          "[Content_Types].xml",
          "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"/>"
              .getBytes(StandardCharsets.UTF_8));
      part(
          zip,
          "_rels/.rels",
          "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"/>"
              .getBytes(StandardCharsets.UTF_8));
      part(
          zip,
          "xl/workbook.xml",
          "<workbook xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\" xmlns:r=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships\"><sheets><sheet name=\"s\" sheetId=\"1\" r:id=\"rId1\"/></sheets></workbook>"
              .getBytes(StandardCharsets.UTF_8));
      part(
          zip,
          "xl/_rels/workbook.xml.rels",
          "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"rId1\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet\" Target=\"worksheets/sheet1.xml\"/></Relationships>"
              .getBytes(StandardCharsets.UTF_8));
      part(zip, "xl/worksheets/sheet1.xml", sheet);
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return out.toByteArray();
  }

  private static void part(ZipOutputStream zip, String name, byte[] bytes) throws IOException {
    zip.putNextEntry(new ZipEntry(name));
    zip.write(bytes);
    zip.closeEntry();
  }
}
