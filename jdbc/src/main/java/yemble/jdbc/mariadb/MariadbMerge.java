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
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.store.Counting;
import yemble.core.store.Merge;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;
import yemble.core.wording.Sentence;
import yemble.jdbc.rows.KeptKeys;
import yemble.jdbc.rows.MarkLines;
import yemble.jdbc.rows.Merger;

/**
 * Rows that wait in tables beside those of the target, and are merged in one transaction. Whatever
 * commits by itself is done before it: nothing but rows changes in it.
 */
final class MariadbMerge extends MariadbLoad implements Merge {
  private static final Map<String, Integer> BITS =
      Map.of("tinyint", 8, "smallint", 16, "mediumint", 24, "int", 32, "bigint", 64);
  private static final Pattern DECIMAL = Pattern.compile("decimal\\((\\d+),0\\).*");
  private final MariadbCatalog target;
  private final Schema incoming;
  private final Schema structure;

  /** What removes the places for keys that this load made. */
  private final List<String> unmaking = new ArrayList<>();

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
  public List<String> warnings(MergePlan plan) {
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
    plan.helper()
        .map(helper -> helperWarning(plan, helper.name()))
        .filter(warning -> !warning.isEmpty())
        .ifPresent(warnings::add);
    return warnings;
  }

  private String helperWarning(MergePlan plan, String helper) {
    int tables = 0;
    try {
      for (MergePlan.Part part : plan.parts()) {
        tables += merger(plan).keeping(part).isPresent() ? 1 : 0;
      }
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
    return tables == 0
        ? ""
        : String.format(
            Locale.ROOT,
            "%d %s the column %s, which the server commits at once: a load that is killed may"
                + " leave it there, empty",
            tables,
            tables == 1 ? "table gets" : "tables get",
            helper);
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
      merger =
          new Merger(
              new MergeWords(
                  session,
                  table -> target.storage(table).relation(),
                  table -> shadows.get(table.name())),
              plan,
              this::greatest);
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
        Optional<KeptKeys.Making> making = merger(plan).keeping(part);
        if (making.isPresent()) {
          for (String statement : making.get().statements()) {
            session.execute(statement);
          }
          unmaking.add(making.get().undo());
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
  public List<Sentence> faults(MergePlan plan) {
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
      unmaking.clear();
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
      if (unmaking != null) {
        for (String statement : unmaking) {
          session.execute(statement);
        }
      }
      if (madeMark) {
        session.execute("DROP TABLE IF EXISTS " + MarkTable.NAME);
      }
    } catch (SQLException ignored) {
      // The connection is gone, and the server has rolled back.
    }
    super.close();
  }
}
