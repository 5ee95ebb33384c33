package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import java.util.function.Predicate;
import java.util.function.Supplier;
import yemble.core.mark.Mark;
import yemble.core.problem.Problem;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;
import yemble.core.store.Statements;
import yemble.jdbc.rows.CarefulWriter;
import yemble.jdbc.ways.LoadDataRows;

/**
 * A load into tables beside those that are there: {@code yemble_new_1} and so on, with all that
 * belongs to a table but its foreign keys and triggers. Once the proof holds, one RENAME TABLE
 * takes the old tables away and puts the new ones in their place, all at once; {@link Swap} does
 * what only then can be done.
 */
class MariadbLoad implements Load {
  /** "Data truncated for column": what the server says of a label that is none. */
  private static final int TRUNCATED = 1265;

  final Login login;
  final Session session;
  private final Schema structure;
  private final List<String> dropped;
  private final boolean makes;
  private final Set<String> grantees;
  private final boolean local;
  final Map<String, String> shadows = new LinkedHashMap<>();
  MariadbCatalog catalog;
  private Swap swap;
  private boolean locked;
  private boolean committed;

  /**
   * @param structure what the tables become
   * @param dropped the names of what is replaced
   * @param makes whether views, routines and the like are made, too
   * @param grantees accounts whose grants are carried over
   */
  MariadbLoad(
      Login login,
      Session session,
      Schema structure,
      List<String> dropped,
      boolean makes,
      Set<String> grantees) {
    this.grantees = grantees;
    this.login = login;
    this.session = session;
    this.structure = structure;
    this.dropped = dropped;
    this.makes = makes;
    String doing = login.place();
    try {
      Swap.lock(session, login);
      locked = true;
      Swap.mend(session);
      session.execute("SET SESSION unique_checks = 0, foreign_key_checks = 0");
      this.local = "1".equals(session.one("SELECT @@local_infile"));
      for (SchemaObject object : structure.objects()) {
        if (object.type() == Type.TABLE) {
          doing = object.name();
          make(object);
        } else if (object.type() == Type.INDEX && object.carried()) {
          doing = object.name();
          index(object);
        }
      }
      this.catalog = new MariadbCatalog(session, shadows);
    } catch (SQLException e) {
      close();
      throw MariadbErrors.of(e, login.name() + " cannot be made ready", doing);
    } catch (RuntimeException e) {
      close();
      throw e;
    }
  }

  private void make(SchemaObject table) throws SQLException {
    String shadow = Swap.NEW + (shadows.size() + 1);
    session.execute(created(table, shadow));
    shadows.put(table.name(), shadow);
  }

  /** What makes a table under another name. */
  static String created(SchemaObject table, String name) {
    String lead = "CREATE TABLE " + Sql.quoted(table.name());
    return "CREATE TABLE " + name + table.definition().substring(lead.length());
  }

  /** What makes an index on a table that has another name. */
  static String indexed(SchemaObject index, String name) {
    String on = " ON " + Sql.quoted(index.table()) + " (";
    return index.definition().replace(on, " ON " + name + " (");
  }

  /** An index that is said apart from its table, as the structure of another engine's is. */
  private void index(SchemaObject index) throws SQLException {
    session.execute(indexed(index, shadows.get(index.table())));
  }

  private RowSink sink(Table table, boolean[] raw, Predicate<Session.Warning> harmless) {
    Storage storage = catalog.storage(table.name());
    return local
        ? new LoadWriter(
            session,
            LoadText.statement(
                "yemble", storage.relation(), table.written(), storage.forms(table.written()), raw),
            storage.forms(table.written()),
            table.name().toString(),
            harmless)
        : new InsertWriter(session, storage, table.written());
  }

  @Override
  public RowWriter rows(Table table) {
    RowSink sink = sink(table, new boolean[table.written().size()], warning -> false);
    return new CarefulWriter() {
      @Override
      protected void put(Object[] values) {
        sink.write(values);
      }

      @Override
      protected void complete() {
        sink.complete();
      }

      @Override
      protected void end() {
        sink.close();
      }
    };
  }

  @Override
  public boolean copy(
      RowSource source,
      Table table,
      RowSet rows,
      Supplier<List<CellChange>> changes,
      LongConsumer progress) {
    Optional<LoadDataRows> given = source.as(LoadDataRows.class);
    if (given.isEmpty() || !local) {
      return false;
    }
    List<CellChange> first = changes.get();
    if (first.stream().anyMatch(CellChange::isTold)) {
      return false;
    }
    LoadDataRows rowsOfTable = given.get();
    boolean[] raw = raw(rowsOfTable, table, first);
    try (RowSink sink = sink(table, raw, warning -> isOfNoLabel(rowsOfTable, table, warning))) {
      new MaskedCopy(
              rowsOfTable,
              table,
              raw,
              catalog.storage(table.name()).forms(table.written()),
              changes,
              sink,
              progress)
          .copy(rows);
      sink.complete();
    }
    return true;
  }

  /** The columns whose values are kept, and pass as bytes. */
  private boolean[] raw(LoadDataRows source, Table table, List<CellChange> changes) {
    List<Column> columns = table.written();
    boolean[] raw = new boolean[columns.size()];
    for (int i = 0; i < raw.length; i++) {
      Optional<String> to = catalog.storage(table.name()).form(columns.get(i).name()).asBytes();
      raw[i] =
          changes.get(i).keeps() && to.isPresent() && to.equals(source.form(table, columns.get(i)));
    }
    return raw;
  }

  /** Whether a warning is about cells of an enumeration that have no label in the source, too. */
  private static boolean isOfNoLabel(LoadDataRows source, Table table, Session.Warning warning) {
    return warning.code() == TRUNCATED
        && table.written().stream()
            .filter(column -> column.type().toLowerCase(Locale.ROOT).startsWith("enum("))
            .filter(column -> warning.message().contains("'" + column.name() + "'"))
            .anyMatch(column -> source.holdsNoLabel(table, column));
  }

  @Override
  public void finish(Schema made, Counting source) {
    String doing = "";
    try {
      for (var counter : source.counters().entrySet()) {
        Storage storage = catalog.storage(counter.getKey());
        if (storage != null && !storage.counter().isEmpty()) {
          doing = counter.getKey().toString();
          session.execute(
              "ALTER TABLE "
                  + storage.relation()
                  + " AUTO_INCREMENT = "
                  + Long.toUnsignedString(counter.getValue() + 1));
        }
      }
      doing = login.place();
      if (!shadows.isEmpty()) {
        session.execute("ANALYZE TABLE " + Sql.quoted(shadows.values()));
      }
      catalog = new MariadbCatalog(session, shadows);
      swap = new Swap(session, structure, shadows, dropped, makes, grantees);
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the structure of " + login.name() + " cannot be completed", doing);
    }
  }

  @Override
  public List<String> made() {
    return made(structure);
  }

  /** The names of what a structure makes. */
  static List<String> made(Schema structure) {
    return structure.objects().stream()
        .filter(SchemaObject::carried)
        .filter(
            object ->
                object.type() == Type.TABLE
                    || object.type() == Type.VIEW
                    || object.type() == Type.FUNCTION
                    || object.type() == Type.SEQUENCE)
        .map(SchemaObject::name)
        .toList();
  }

  @Override
  public Statements statements() {
    try {
      return session.statements();
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be read", login.place());
    }
  }

  @Override
  public Reader reader() {
    return new MariadbReader(session, "the new " + login.name(), catalog);
  }

  @Override
  public void commit(Mark mark) {
    try {
      swap.prepare(mark);
      swap.checkOutside();
      swap.swap();
      committed = true;
    } catch (SQLException e) {
      throw MariadbErrors.of(e, login.name() + " cannot be completed", login.place());
    }
    try {
      Swap.complete(session);
    } catch (SQLException e) {
      throw MariadbErrors.of(
              e, "the rows are in, but not all that belongs to the tables", login.place())
          .remedy("yemble doctor --mend goes on where this stopped");
    } catch (Problem problem) {
      throw problem.atIfUnknown(login.place());
    }
  }

  @Override
  public void close() {
    if (!locked) {
      return;
    }
    try {
      if (!committed) {
        Swap.clear(session);
      }
      Swap.unlock(session);
    } catch (SQLException ignored) {
      // The connection is gone; the next load clears what is left.
    }
  }
}
