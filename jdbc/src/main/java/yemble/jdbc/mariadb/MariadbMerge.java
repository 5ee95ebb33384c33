package yemble.jdbc.mariadb;

import java.math.BigInteger;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.mark.Mark;
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
import yemble.jdbc.rows.MarkLines;
import yemble.jdbc.rows.MergeDialect;
import yemble.jdbc.rows.Merger;
import yemble.jdbc.rows.ServerSession;

/**
 * Rows that wait in tables beside those of the target, and are merged in one transaction. Whatever
 * commits by itself is done before it: nothing but rows changes in it.
 */
final class MariadbMerge extends MariadbLoad implements Merge {
  private static final Map<String, Integer> BITS =
      Map.of("tinyint", 8, "smallint", 16, "mediumint", 24, "int", 32, "bigint", 64);
  private static final Pattern DECIMAL = Pattern.compile("decimal\\((\\d+),0\\).*");
  private static final Pattern TEXTS =
      Pattern.compile("(?i)(char|varchar|.*text|.*blob|.*binary|enum|set|json|inet|uuid).*");

  private static final Pattern SIZED = Pattern.compile("(?i)(?:var)?(?:char|binary)\\((\\d+)\\).*");

  /** As much of a text as any index takes. */
  private static final int INDEXED_CHARACTERS = 191;

  private final MariadbCatalog target;
  private final Schema incoming;
  private final Schema structure;
  private final List<String> madeMemories = new ArrayList<>();
  private boolean madeMark;
  private boolean withoutTriggers;
  private boolean merging;
  private Merger merger;

  /**
   * @param structure of the tables that are there
   * @param incoming what the rows look like that come
   */
  MariadbMerge(Login login, Session session, Schema structure, Schema incoming) {
    super(login, session, tablesAlone(structure), List.of(), false, Set.of());
    this.incoming = incoming;
    this.structure = structure;
    try {
      this.target = new MariadbCatalog(session);
    } catch (SQLException e) {
      close();
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  private static Schema tablesAlone(Schema structure) {
    return new Schema(
        structure.tables(),
        List.of(),
        structure.objects().stream()
            .filter(object -> object.type() == yemble.core.schema.SchemaObject.Type.TABLE)
            .toList(),
        structure.settings());
  }

  @Override
  public Schema present() {
    return new Schema(target.tables(), target.foreignKeys(), List.of(), Map.of());
  }

  @Override
  public Optional<BigInteger> greatest(Column column) {
    String type = column.type().toLowerCase(Locale.ROOT);
    Matcher decimal = DECIMAL.matcher(type);
    if (decimal.matches()) {
      return Optional.of(
          BigInteger.TEN.pow(Integer.parseInt(decimal.group(1))).subtract(BigInteger.ONE));
    }
    Integer bits = BITS.get(type.replaceFirst("[ (].*", ""));
    return bits == null
        ? Optional.empty()
        : Optional.of(
            BigInteger.ONE
                .shiftLeft(type.contains("unsigned") ? bits : bits - 1)
                .subtract(BigInteger.ONE));
  }

  @Override
  public List<String> warnings() {
    List<String> warnings = new ArrayList<>();
    for (Storage storage : target.storages()) {
      boolean comes = incoming.table(storage.table().name()) != null;
      if (comes && !storage.engine().equalsIgnoreCase("InnoDB")) {
        warnings.add(
            storage.table().name()
                + " is of "
                + storage.engine()
                + ": what is written into it cannot be taken back");
      }
    }
    return warnings;
  }

  @Override
  public void finish(Schema made, Counting source) {
    try {
      if (!shadows.isEmpty()) {
        session.execute("ANALYZE TABLE " + Sql.quoted(shadows.values()));
      }
      catalog = new MariadbCatalog(session, shadows);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "what waits cannot be read", login.place());
    }
  }

  @Override
  public Reader merged() {
    try {
      return new MariadbReader(session, login.name(), new MariadbCatalog(session));
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  private Merger merger(MergePlan plan) {
    if (merger == null) {
      merger = new Merger(new Dialect(), plan, this::greatest);
    }
    return merger;
  }

  /**
   * Lets something join tables by their indexes alone. Else the server would put one hash table
   * upon another over tables of a session, of which it knows next to nothing: with 11.4.5 a join of
   * six tables of 7,000 rows did not come to an end in four minutes.
   */
  private <T> T byIndexes(Supplier<T> joining) {
    try {
      session.execute("SET SESSION join_cache_level = 2");
      T found = joining.get();
      session.execute("SET SESSION join_cache_level = 4");
      return found;
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public List<Tally> decide(MergePlan plan) {
    return byIndexes(() -> merger(plan).decide());
  }

  @Override
  public void hold(MergePlan plan) {
    String doing = "";
    try {
      for (MergePlan.Part part : plan.parts()) {
        doing = part.name().toString();
        Optional<String> made = merger(plan).memoryOf(part);
        if (made.isPresent()) {
          session.execute(made.get());
          madeMemories.add(part.memory());
        }
      }
      doing = "triggers";
      withoutTriggers = Swap.takeOffTriggers(session, structure);
      doing = MarkTable.NAME;
      if (!MariadbTarget.isThere(session, MarkTable.NAME)) {
        madeMark = true;
        MarkTable.write(session, MarkTable.NAME, Mark.NONE);
      }
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be made ready", doing);
    }
  }

  @Override
  public void put(MergePlan plan) {
    try {
      session.execute("SET SESSION unique_checks = 1, foreign_key_checks = 0");
      session.execute("START TRANSACTION");
      merging = true;
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the rows cannot be merged", login.place());
    }
    byIndexes(
        () -> {
          merger(plan).put();
          return true;
        });
  }

  @Override
  public void complete(Counting source) {
    // Counters are behind the keys in use by themselves; the rest comes after the transaction.
  }

  @Override
  public List<String> faults(MergePlan plan) {
    return byIndexes(() -> merger(plan).faults());
  }

  @Override
  public void own(MergePlan.Part part, List<Column> columns, RowSource.RowVisitor visitor) {
    merged().rows(part.table(), merger.own(part), columns, visitor);
  }

  @Override
  public void commit(Mark mark) {
    try {
      session.execute("DELETE FROM " + MarkTable.NAME);
      for (String statement : MarkLines.inserts(MarkTable.NAME, mark, Sql::literal)) {
        session.execute(statement);
      }
      session.execute("COMMIT");
      merging = false;
      madeMark = false;
      madeMemories.clear();
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be completed", login.place());
    }
    try {
      triggersBack();
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the rows are in, but not all triggers are back", login.place())
          .remedy("yemble doctor --mend goes on where this stopped");
    }
  }

  private void triggersBack() throws SQLException {
    if (withoutTriggers) {
      Swap.complete(session);
      withoutTriggers = false;
    }
  }

  @Override
  public void close() {
    try {
      if (merging) {
        session.execute("ROLLBACK");
      }
      triggersBack();
      if (madeMemories != null && !madeMemories.isEmpty()) {
        session.execute("DROP TABLE IF EXISTS " + Sql.quoted(madeMemories));
      }
      if (madeMark) {
        session.execute("DROP TABLE IF EXISTS " + MarkTable.NAME);
      }
    } catch (SQLException ignored) {
      // The connection is gone, and the server has rolled back.
    }
    super.close();
  }

  /** The words of this engine. */
  private final class Dialect implements MergeDialect {
    @Override
    public String quoted(String name) {
      return Sql.quoted(name);
    }

    @Override
    public String target(TableName table) {
      return target.storage(table).relation();
    }

    @Override
    public String staged(TableName table) {
      return shadows.get(table.name());
    }

    @Override
    public String memory(String name) {
      return name;
    }

    @Override
    public boolean remembers(String name) throws SQLException {
      return MariadbTarget.isThere(session, name);
    }

    @Override
    public String temporary(String name, String query) {
      return "CREATE TEMPORARY TABLE " + name + " AS " + query;
    }

    @Override
    public List<String> indexed(String name, char letter, List<Column> key) {
      List<String> columns = new ArrayList<>();
      for (int i = 1; i <= key.size(); i++) {
        Matcher sized = SIZED.matcher(key.get(i - 1).type());
        boolean text = TEXTS.matcher(key.get(i - 1).type()).matches();
        boolean whole =
            !text || sized.matches() && Integer.parseInt(sized.group(1)) <= INDEXED_CHARACTERS;
        columns.add(letter + "_" + i + (whole ? "" : "(" + INDEXED_CHARACTERS + ")"));
      }
      return List.of("ALTER TABLE " + name + " ADD INDEX (" + String.join(", ", columns) + ")");
    }

    @Override
    public String removed(String name) {
      return "DROP TEMPORARY TABLE IF EXISTS " + name;
    }

    /** Of tables of a session the server knows too little to find a good order by itself. */
    @Override
    public String inOrder() {
      return " STRAIGHT_JOIN ";
    }

    @Override
    public String differs(Column column, String one, String other) {
      return TEXTS.matcher(column.type()).matches()
          ? "NOT (CAST(" + one + " AS BINARY) <=> CAST(" + other + " AS BINARY))"
          : "NOT (" + one + " <=> " + other + ")";
    }

    @Override
    public String update(String table, List<String> set, String query, String on) {
      return "UPDATE "
          + table
          + " t JOIN ("
          + query
          + ") x ON "
          + on
          + " SET "
          + String.join(
              ", ", set.stream().map(column -> "t." + column + " = x." + column).toList());
    }

    @Override
    public String literal(String text) {
      return Sql.literal(text);
    }

    @Override
    public String joined(String one, String number, String other) {
      return "CONCAT(" + literal(one) + ", " + number + ", " + literal(other) + ")";
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
      return MariadbErrors.of(e, what, where);
    }
  }
}
