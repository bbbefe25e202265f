package fiador.bench;

import de.siegmar.fastcsv.writer.CsvWriter;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.files.extracts.Extracts;
import fiador.files.houses.HouseSheets;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.files.yaml.Mistakes;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.houses.HouseSheet;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Objects;

/**
 * Extracts against the survey file, in fresh JVMs: {@code ExtractsBench write DIR SIZE} makes an
 * estate as both, with one row for each grant; {@code ExtractsBench survey DIR} and {@code
 * ExtractsBench extracts DIR} read the one or the other, and say how long that took.
 */
public final class ExtractsBench {
  private final Path folder;
  private final Access access;
  private final Tree tree;

  private ExtractsBench(Path folder, Access access) {
    this.folder = folder;
    this.access = access;
    this.tree = access.tree();
  }

  private interface Rows {
    void write(CsvWriter to);
  }

  /** Runs it. */
  public static void main(String[] args) throws Exception {
    Locale.setDefault(Locale.ROOT);
    Path folder = Path.of(args[1]);
    Path survey = folder.resolve("survey.jsonl");
    if (args[0].equals("write")) {
      Files.createDirectories(folder);
      EstateGenerator.Size size = EstateGenerator.Size.valueOf(args[2]);
      Access access = new EstateGenerator(size, 1).generate();
      SurveyWriter.write(access, survey);
      new ExtractsBench(folder, access).write();
      return;
    }
    long start = System.nanoTime();
    Access read;
    if (args[0].equals("survey")) {
      read = SurveyReader.read(survey);
    } else {
      HouseSheet sheet = HouseSheets.shipped("cascade", new Mistakes());
      read =
          Extracts.read(
              Objects.requireNonNull(sheet, "the sheet is right"),
              folder,
              "bench",
              System.out::println);
    }
    System.out.printf(
        "%s: %d ms, %d grants, %d MB in use%n",
        args[0],
        (System.nanoTime() - start) / 1_000_000,
        read.grants().size(),
        (Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory()) >> 20);
  }

  private void file(String name, String header, Rows rows) throws IOException {
    try (CsvWriter to = CsvWriter.builder().build(folder.resolve(name))) {
      to.writeRecord(header.split(",", -1));
      rows.write(to);
    }
  }

  private String principal(int id) {
    return id == 0 ? "everybody" : id < 0 ? "" : access.principals().name(id);
  }

  private String enclosing(int node, NodeKind kind) {
    int at = tree.enclosing(node, kind);
    return at == None.NODE ? "" : tree.name(at);
  }

  private void write() throws IOException {
    file(
        "principals.csv",
        "principal_name,principal_type,locked,administrator,keeps_accounts,remark",
        to -> {
          for (int id = 1; id < access.principals().size(); id++) {
            String kind = access.principals().isUser(id) ? "person" : "role";
            to.writeRecord(principal(id), kind, "no", "no", "no", "");
          }
        });
    containers(NodeKind.DATABASE, "databases.csv", "database_name,owner_name");
    containers(NodeKind.SCHEMA, "schemas.csv", "database_name,schema_name,owner_name,sealed");
    file(
        "columns.csv",
        "database_name,schema_name,object_name,column_name,data_type",
        this::columns);
    file(
        "objects.csv",
        "object_type,database_name,schema_name,object_name,owner_name,view_text,reads_as",
        this::objects);
    file("role_members.csv", "role_name,member_name,may_pass_on", this::members);
    file(
        "permissions.csv",
        "principal_name,permission,decision,object_type,database_name,schema_name,object_name,"
            + "column_name,may_pass_on,given_by",
        this::grants);
  }

  private void containers(NodeKind kind, String name, String header) throws IOException {
    file(
        name,
        header,
        to -> {
          for (int node = 0; node < tree.size(); node++) {
            if (tree.kind(node) == kind && kind == NodeKind.DATABASE) {
              to.writeRecord(tree.name(node), principal(tree.owner(node)));
            } else if (tree.kind(node) == kind) {
              to.writeRecord(
                  enclosing(node, NodeKind.DATABASE),
                  tree.name(node),
                  principal(tree.owner(node)),
                  "no");
            }
          }
        });
  }

  private static boolean isRelation(NodeKind kind) {
    return kind == NodeKind.TABLE || kind == NodeKind.VIEW;
  }

  private void columns(CsvWriter to) {
    for (int node = 0; node < tree.size(); node++) {
      for (int i = 0; isRelation(tree.kind(node)) && i < tree.columns(node); i++) {
        to.writeRecord(
            enclosing(node, NodeKind.DATABASE),
            enclosing(node, NodeKind.SCHEMA),
            tree.name(node),
            tree.column(node, i),
            "int");
      }
    }
  }

  private void objects(CsvWriter to) {
    for (int node = 0; node < tree.size(); node++) {
      if (isRelation(tree.kind(node))) {
        to.writeRecord(
            tree.kind(node).text(),
            enclosing(node, NodeKind.DATABASE),
            enclosing(node, NodeKind.SCHEMA),
            tree.name(node),
            principal(tree.owner(node)),
            "",
            "");
      }
    }
  }

  private void members(CsvWriter to) {
    for (int edge = 0; edge < access.memberships().size(); edge++) {
      to.writeRecord(
          principal(access.memberships().role(edge)),
          principal(access.memberships().member(edge)),
          access.memberships().options(edge).admin() ? "yes" : "no");
    }
  }

  private void grants(CsvWriter to) {
    Grants grants = access.grants();
    for (int row = 0; row < grants.size(); row++) {
      int node = grants.node(row);
      NodeKind kind = tree.kind(node);
      if (kind.isObject() && !isRelation(kind) || kind == NodeKind.SERVER) {
        continue;
      }
      boolean whole = grants.columns(row) == ColumnSets.WHOLE;
      int first = whole ? None.COLUMN : access.columnSets().ordinals(grants.columns(row))[0];
      to.writeRecord(
          principal(grants.grantee(row)),
          // a schema's usage and the like are no privileges there
          kind.isObject() ? PrivilegeSet.text(grants.terms(row).privileges()) : "connect",
          "allowed",
          kind.isObject() ? kind.text() : "",
          enclosing(node, NodeKind.DATABASE),
          enclosing(node, NodeKind.SCHEMA),
          kind.isObject() ? tree.name(node) : "",
          whole ? "" : tree.column(node, first),
          grants.terms(row).grantable() != 0 ? "yes" : "no",
          principal(grants.grantor(row)));
    }
  }
}
