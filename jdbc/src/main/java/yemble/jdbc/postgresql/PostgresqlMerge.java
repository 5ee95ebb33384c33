package yemble.jdbc.postgresql;

import java.math.BigInteger;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.merge.MergePlan;
import yemble.core.merge.Tally;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.store.Counting;
import yemble.core.store.Merge;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;
import yemble.jdbc.rows.MergeDialect;
import yemble.jdbc.rows.Merger;
import yemble.jdbc.rows.ServerSession;

/** Rows that wait in tables of the session, and are merged in the load's one transaction. */
final class PostgresqlMerge extends PostgresqlLoad implements Merge {
  /** Types whose equal values are the very same. */
  private static final Set<String> EXACT =
      Set.of(
          "smallint",
          "integer",
          "bigint",
          "boolean",
          "date",
          "uuid",
          "timestamp without time zone",
          "timestamp with time zone");

  private static final Pattern DECIMAL = Pattern.compile("numeric\\((\\d+)(?:,0)?\\)");

  private final FoundTables found;
  private final WaitingTables waiting;
  private Merger merger;

  PostgresqlMerge(Login login, Session session, FoundTables found, WaitingTables waiting) {
    super(login, session, waiting, false);
    this.found = found;
    this.waiting = waiting;
  }

  @Override
  public Schema present() {
    return new Schema(
        found.catalog().tables(), found.catalog().foreignKeys(), List.of(), java.util.Map.of());
  }

  @Override
  public Optional<BigInteger> greatest(Column column) {
    return switch (column.type()) {
      case "smallint" -> Optional.of(BigInteger.valueOf(Short.MAX_VALUE));
      case "integer" -> Optional.of(BigInteger.valueOf(Integer.MAX_VALUE));
      case "bigint" -> Optional.of(BigInteger.valueOf(Long.MAX_VALUE));
      default -> {
        Matcher whole = DECIMAL.matcher(column.type());
        yield whole.matches()
            ? Optional.of(
                BigInteger.TEN.pow(Integer.parseInt(whole.group(1))).subtract(BigInteger.ONE))
            : Optional.empty();
      }
    };
  }

  @Override
  public Reader reader() {
    return new PostgresqlReader(session, "what waits for " + login.name(), waiting.catalog());
  }

  @Override
  public Reader merged() {
    return super.reader();
  }

  private Merger merger(MergePlan plan) {
    if (merger == null) {
      merger = new Merger(new Dialect(), plan, this::greatest);
    }
    return merger;
  }

  @Override
  public List<Tally> decide(MergePlan plan) {
    return merger(plan).decide();
  }

  @Override
  public void hold(MergePlan plan) {
    String doing = "";
    try {
      for (MergePlan.Part part : plan.parts()) {
        doing = part.name().toString();
        String relation = found.catalog().storage(part.name()).relation();
        session.execute("LOCK TABLE " + relation + " IN ACCESS EXCLUSIVE MODE");
      }
      found.prepare();
      for (MergePlan.Part part : plan.parts()) {
        doing = part.name().toString();
        Optional<String> memory = merger(plan).memoryOf(part);
        if (memory.isPresent()) {
          session.execute("CREATE SCHEMA IF NOT EXISTS " + PostgresqlCatalog.OWN_SCHEMA);
          session.execute(memory.get());
        }
      }
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be made ready", doing);
    }
  }

  @Override
  public void put(MergePlan plan) {
    merger(plan).put();
  }

  @Override
  public void complete(Counting source) {
    try {
      found.complete(source);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, login.name() + " cannot be completed", found.doing());
    }
  }

  @Override
  public List<String> faults(MergePlan plan) {
    return merger(plan).faults();
  }

  @Override
  public void own(MergePlan.Part part, List<Column> columns, RowSource.RowVisitor visitor) {
    merged().rows(part.table(), merger.own(part), columns, visitor);
  }

  private static String memory(String name) {
    return PostgresqlCatalog.OWN_SCHEMA + "." + name;
  }

  /** The words of this engine. */
  private final class Dialect implements MergeDialect {
    @Override
    public String quoted(String name) {
      return Sql.quoted(name);
    }

    @Override
    public String target(TableName table) {
      return found.catalog().storage(table).relation();
    }

    @Override
    public String staged(TableName table) {
      return waiting.relation(table);
    }

    @Override
    public String memory(String name) {
      return PostgresqlMerge.memory(name);
    }

    @Override
    public boolean remembers(String name) throws SQLException {
      return session.one("SELECT to_regclass('" + memory(name) + "')") != null;
    }

    @Override
    public String temporary(String name, String query) {
      return "CREATE TEMP TABLE " + name + " ON COMMIT DROP AS " + query;
    }

    @Override
    public String removed(String name) {
      return "DROP TABLE IF EXISTS pg_temp." + name;
    }

    @Override
    public String analyzed(String name) {
      return "ANALYZE pg_temp." + name;
    }

    @Override
    public String differs(Column column, String one, String other) {
      return EXACT.contains(column.type())
          ? one + " IS DISTINCT FROM " + other
          : "("
              + one
              + ")::text COLLATE \"C\" IS DISTINCT FROM ("
              + other
              + ")::text COLLATE \"C\"";
    }

    @Override
    public String inserting() {
      return "OVERRIDING SYSTEM VALUE ";
    }

    @Override
    public String update(String table, List<String> set, String query, String on) {
      return "UPDATE "
          + table
          + " AS t SET "
          + String.join(", ", set.stream().map(column -> column + " = x." + column).toList())
          + " FROM ("
          + query
          + ") x WHERE "
          + on;
    }

    @Override
    public String literal(String text) {
      return Sql.literal(text);
    }

    @Override
    public void execute(String sql) throws SQLException {
      session.execute(sql);
    }

    @Override
    public String one(String sql) throws SQLException {
      return session.one(sql);
    }

    @Override
    public void query(String sql, ServerSession.RowAction action) throws SQLException {
      session.query(sql, action);
    }

    @Override
    public Problem problem(SQLException e, String what, String where) {
      return PostgresqlErrors.of(e, what, where);
    }
  }
}
