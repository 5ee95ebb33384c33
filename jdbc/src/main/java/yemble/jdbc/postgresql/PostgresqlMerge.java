package yemble.jdbc.postgresql;

import java.math.BigInteger;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.merge.MergePlan;
import yemble.core.merge.Tally;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.store.Counting;
import yemble.core.store.Merge;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;
import yemble.core.wording.Sentence;
import yemble.jdbc.rows.KeptKeys;
import yemble.jdbc.rows.Merger;

/** Rows that wait in tables of the session, and are merged in the load's one transaction. */
final class PostgresqlMerge extends PostgresqlLoad implements Merge {
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
      merger =
          new Merger(
              new MergeWords(
                  session, table -> found.catalog().storage(table).relation(), waiting::relation),
              plan,
              this::greatest);
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
        Optional<KeptKeys.Making> making = merger(plan).keeping(part);
        if (making.isPresent()) {
          if (!part.memory().isEmpty()) {
            session.execute("CREATE SCHEMA IF NOT EXISTS " + PostgresqlCatalog.OWN_SCHEMA);
          }
          for (String statement : making.get().statements()) {
            session.execute(statement);
          }
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
  public List<Sentence> faults(MergePlan plan) {
    return merger(plan).faults();
  }

  @Override
  public void own(MergePlan.Part part, List<Column> columns, RowSource.RowVisitor visitor) {
    merged().rows(part.table(), merger.own(part), columns, visitor);
  }
}
