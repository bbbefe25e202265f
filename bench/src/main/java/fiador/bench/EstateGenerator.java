package fiador.bench;

import fiador.estate.EstateBuilder;
import fiador.estate.NodeKind;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.grants.Membership;
import fiador.grants.Origin;
import fiador.grants.Terms;
import fiador.grants.rules.PostgresqlRules;
import java.time.Instant;
import java.util.Random;

/**
 * Makes estates of a size: a layered role graph with skewed popularity, access roles that belong to
 * a schema and hold grants there, some grants to users directly, some on columns.
 */
public final class EstateGenerator {
  /** Sizes used in docs/performance.md. */
  public enum Size {
    M(1_000, 500, 10_000, 20_000, 3_000, 50),
    L(50_000, 10_000, 1_000_000, 5_000_000, 200_000, 2_000),
    L2(100_000, 50_000, 5_000_000, 50_000_000, 1_000_000, 10_000);

    final int users;
    final int roles;
    final int tables;
    final int grants;
    final int memberships;
    final int schemas;

    Size(int users, int roles, int tables, int grants, int memberships, int schemas) {
      this.users = users;
      this.roles = roles;
      this.tables = tables;
      this.grants = grants;
      this.memberships = memberships;
      this.schemas = schemas;
    }
  }

  private static final long READ = Privilege.SELECT.bit();
  private static final long WRITE =
      PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE);

  private final Size size;
  private final Random random;
  private final AccessBuilder builder = new AccessBuilder();
  private final EstateBuilder estate = builder.estate();
  private int firstRole;
  private int firstSchema;
  private int firstTable;
  private final int containers;

  /** The first table of each schema. */
  private final int[] firstOf;

  /** A generator; the same seed gives the same estate. */
  public EstateGenerator(Size size, long seed) {
    this(size, seed, 0);
  }

  /**
   * As the other.
   *
   * @param containers how many grants in a hundred stand on schemas and come down to their tables;
   *     where there are any, some schemas are larger than others
   */
  public EstateGenerator(Size size, long seed, int containers) {
    this.size = size;
    this.random = new Random(seed);
    this.containers = containers;
    this.firstOf = new int[size.schemas + 1];
  }

  /** Which tables are in which schema: as many in each, or lognormal. */
  private void share() {
    double[] share = new double[size.schemas];
    double all = 0;
    for (int i = 0; i < share.length; i++) {
      share[i] = containers == 0 ? 1 : Math.exp(random.nextGaussian() / 4);
      all += share[i];
    }
    double before = 0;
    for (int i = 0; i < share.length; i++) {
      firstOf[i] = (int) Math.round(before / all * size.tables);
      before += share[i];
    }
    firstOf[size.schemas] = size.tables;
  }

  /** The estate. */
  public Access generate() {
    for (int i = 0; i < size.users; i++) {
      estate.principal(PrincipalKind.USER, "person_" + i, 0, -1);
    }
    firstRole = estate.principals();
    for (int i = 0; i < size.roles; i++) {
      estate.principal(PrincipalKind.ROLE, "role_" + i, 0, -1);
    }
    nodes();
    memberships();
    grants();
    return builder.build(
        new Origin("generated", "postgresql", "18", Instant.EPOCH), PostgresqlRules.of(18));
  }

  /** Small numbers are more popular; the mean is a third of the range. */
  private int skewed(int range) {
    double r = random.nextDouble();
    return (int) (range * r * r);
  }

  private void nodes() {
    int server = estate.node(-1, NodeKind.SERVER, "generated", -1);
    int database = estate.node(server, NodeKind.DATABASE, "warehouse", -1);
    builder.grant(
        Principals.PUBLIC, database, Terms.of(Privilege.CONNECT.bit(), 0), ColumnSets.WHOLE, -1);
    firstSchema = estate.nodes();
    for (int i = 0; i < size.schemas; i++) {
      estate.node(database, NodeKind.SCHEMA, "schema_" + i, -1);
    }
    firstTable = estate.nodes();
    share();
    int schema = firstSchema;
    for (int i = 0; i < size.tables; i++) {
      while (i >= firstOf[schema - firstSchema + 1]) {
        schema++;
      }
      estate.node(schema, NodeKind.TABLE, "table_" + i, -1);
      int columns = 3 + random.nextInt(6);
      for (int c = 0; c < columns; c++) {
        estate.column("column_" + (c * 25 + random.nextInt(25)));
      }
    }
  }

  /**
   * Three layers: a few roles at the top hold duty roles, duty roles hold access roles, write
   * access holds read access. Most people hold a few duty roles.
   */
  private void memberships() {
    int tops = size.roles / 20;
    int duties = size.roles * 7 / 20;
    int access = size.roles - tops - duties;
    int between = size.memberships / 10;
    for (int i = 0; i < between; i++) {
      int dice = random.nextInt(10);
      int member = dice < 2 ? random.nextInt(tops) : tops + random.nextInt(duties);
      int role = dice < 2 ? tops + random.nextInt(duties) : tops + duties + random.nextInt(access);
      if (dice == 9) {
        member = tops + duties + random.nextInt(access - 1);
        role = member + 1;
      }
      builder.member(firstRole + member, firstRole + role, how(), -1);
    }
    for (int i = between; i < size.memberships; i++) {
      int user = 1 + random.nextInt(size.users);
      int dice = random.nextInt(40);
      int role =
          dice == 0
              ? random.nextInt(tops)
              : dice < 30 ? tops + skewed(duties) : tops + duties + skewed(access);
      builder.member(user, firstRole + role, how(), -1);
    }
  }

  /** One in a hundred has to be switched to, one in a hundred cannot be. */
  private Membership how() {
    int dice = random.nextInt(100);
    return dice == 0
        ? Membership.of(false, false, true)
        : dice == 1 ? Membership.of(true, true, false) : Membership.PLAIN;
  }

  private int tableIn(int schema) {
    int from = firstOf[schema];
    int to = Math.max(from + 1, firstOf[schema + 1]);
    return firstTable + from + random.nextInt(to - from);
  }

  private void grants() {
    Terms usage = Terms.of(Privilege.USAGE.bit(), 0);
    for (int role = 0; role < size.roles; role++) {
      int schema = firstSchema + role % size.schemas;
      builder.grant(firstRole + role, schema, usage, ColumnSets.WHOLE, -1);
    }
    Terms read = Terms.of(READ, 0);
    Terms write = Terms.of(WRITE, 0);
    Terms readAll = new Terms(READ, 0, NodeKind.TABLE.bit(), Terms.FOREVER);
    Terms writeAll = new Terms(WRITE, 0, NodeKind.TABLE.bit(), Terms.FOREVER);
    Terms pass = Terms.of(READ, READ);
    int[] columns = {builder.columnSets().intern(0), builder.columnSets().intern(0, 1, 2)};
    int left = size.grants - builder.grants();
    for (int i = 0; i < left; i++) {
      int dice = random.nextInt(100);
      if (dice < 2) {
        int user = 1 + random.nextInt(size.users);
        builder.grant(user, tableIn(random.nextInt(size.schemas)), read, ColumnSets.WHOLE, -1);
        continue;
      }
      int role = size.roles - 1 - skewed(size.roles * 3 / 5);
      int schema = dice < 80 ? role % size.schemas : random.nextInt(size.schemas);
      if (containers > 0 && random.nextInt(100) < containers) {
        Terms down = dice < 60 ? readAll : writeAll;
        builder.grant(firstRole + role, firstSchema + schema, down, ColumnSets.WHOLE, -1);
        continue;
      }
      int table = tableIn(schema);
      Terms terms = dice < 60 ? read : dice < 97 ? write : pass;
      int set = dice % 25 == 3 && dice < 60 ? columns[dice % 2] : ColumnSets.WHOLE;
      builder.grant(firstRole + role, table, terms, set, -1);
    }
  }
}
