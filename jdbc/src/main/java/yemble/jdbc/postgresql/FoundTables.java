package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.SequencePosition;
import yemble.jdbc.crossing.Translation;

/**
 * Tables that the team's migrations have made. They are compared with the source's before a row is
 * copied. Foreign keys and triggers are taken off while rows come in, and put back as they were;
 * both in the load's transaction, so that whatever ends the load ends with all of them in place.
 */
final class FoundTables implements LoadedTables {
  private static final List<String> WHOLE = List.of("smallint", "integer", "bigint", "numeric");
  private static final Pattern SIZED = Pattern.compile("(.*)\\((\\d+)\\)(.*)");

  private final Session session;
  private final Schema schema;
  private final List<String> emptied;
  private final PostgresqlCatalog catalog;
  private final List<String> putBack = new ArrayList<>();
  private String doing = "";

  /**
   * @param emptied the tables whose rows go first
   * @throws Problem of type REFUSED if the tables cannot take the source's rows
   */
  FoundTables(Session session, Schema schema, List<String> emptied) {
    this.session = session;
    this.schema = schema;
    this.emptied = emptied;
    try {
      this.catalog = new PostgresqlCatalog(session);
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "the catalog cannot be read", session.description());
    }
    compare();
  }

  /** What is known of the tables as they are. */
  PostgresqlCatalog catalog() {
    return catalog;
  }

  private void compare() {
    List<String> faults = new ArrayList<>();
    for (Table table : schema.tables()) {
      Storage found = catalog.storage(table.name());
      if (found == null) {
        faults.add("the table " + table.name() + " is missing");
      } else {
        compare(table, found.table(), faults);
      }
    }
    try {
      if (faults.stream().noneMatch(fault -> fault.startsWith("the table "))) {
        compareWhole(faults);
      }
    } catch (SQLException e) {
      throw PostgresqlErrors.of(e, "the catalog cannot be read", session.description());
    }
    if (!faults.isEmpty()) {
      throw Problem.of(Failure.TARGET_TABLES, "the target's tables cannot take the source's rows")
          .at(session.description())
          .because(faults)
          .remedy("bring the migrations of source and target to the same version");
    }
  }

  private void compare(Table source, Table found, List<String> faults) {
    for (Column column : source.written()) {
      String name = source.name(column).toString();
      Column there = found.column(column.name()).orElse(null);
      if (there == null) {
        faults.add(name + " is missing");
      } else if (there.generated()) {
        faults.add(name + " is generated");
      } else if (!takes(there.type(), column.type()) && !onlyOtherwise(there, column)) {
        faults.add(name + " is narrower: " + there.type() + ", not " + column.type());
      } else if (column.nullable() && !there.nullable()) {
        faults.add(name + " must not be NULL");
      }
    }
  }

  /** Columns that would be left without a value, and partitions that lie in another database. */
  private void compareWhole(List<String> faults) throws SQLException {
    Map<Long, Table> sources = new HashMap<>();
    schema.tables().forEach(t -> sources.put(catalog.storage(t.name()).oid(), t));
    session.query(
        "SELECT a.attrelid, a.attname FROM pg_attribute a WHERE a.attrelid IN ("
            + oids()
            + ") AND a.attnum > 0 AND NOT a.attisdropped AND a.attnotnull AND NOT a.atthasdef"
            + " AND a.attidentity = '' ORDER BY a.attrelid, a.attnum",
        row -> {
          Table source = sources.get(row.getLong(1));
          if (source.column(row.getString(2)).isEmpty()) {
            faults.add(
                source.name()
                    + "."
                    + row.getString(2)
                    + " is not in the source, must not be NULL and has no default");
          }
        });
    session.query(
        "SELECT p.relid::regclass::text FROM pg_class c CROSS JOIN LATERAL"
            + " pg_partition_tree(c.oid) p JOIN pg_class f ON f.oid = p.relid"
            + " WHERE c.relkind = 'p' AND f.relkind = 'f' AND c.oid IN ("
            + oids()
            + ")",
        row ->
            faults.add(
                "the partition " + row.getString(1) + " lies in another database, never written"));
  }

  /**
   * Whether a column has another type than the nearest to that of another engine's, of which nobody
   * can say that it is narrower: the rows will show.
   */
  private boolean onlyOtherwise(Column there, Column column) {
    boolean sized = SIZED.matcher(there.type()).matches() && SIZED.matcher(column.type()).matches();
    boolean whole = WHOLE.contains(there.type()) && WHOLE.contains(column.type());
    return schema.settings().containsKey(Translation.TRANSLATED) && !sized && !whole;
  }

  /** Whether a column of type {@code wide} takes every value of type {@code narrow}. */
  static boolean takes(String wide, String narrow) {
    if (wide.equals(narrow) || wide.equals("text") && narrow.startsWith("character")) {
      return true;
    }
    if (WHOLE.contains(wide) && WHOLE.contains(narrow)) {
      return WHOLE.indexOf(wide) > WHOLE.indexOf(narrow);
    }
    Matcher to = SIZED.matcher(wide);
    Matcher from = SIZED.matcher(narrow);
    OptionalInt size =
        to.matches() ? OptionalInt.of(Integer.parseInt(to.group(2))) : OptionalInt.empty();
    if (from.matches()) {
      String bare = from.group(1) + from.group(3);
      return size.isPresent()
          ? bare.equals(to.group(1) + to.group(3))
              && size.getAsInt() >= Integer.parseInt(from.group(2))
          : bare.equals(wide);
    }
    return wide.equals("double precision") && narrow.equals("real");
  }

  private String oids() {
    return schema.tables().stream()
        .map(table -> Long.toString(catalog.storage(table.name()).oid()))
        .collect(Collectors.joining(", "));
  }

  @Override
  public void prepare() throws SQLException {
    List<String> takenOff = new ArrayList<>();
    session.query(
        "SELECT format('ALTER TABLE %s DROP CONSTRAINT %I', k.conrelid::regclass, k.conname),"
            + " format('ALTER TABLE %s ADD CONSTRAINT %I %s', k.conrelid::regclass, k.conname,"
            + " pg_get_constraintdef(k.oid, true)), obj_description(k.oid, 'pg_constraint'),"
            + " format('COMMENT ON CONSTRAINT %I ON %s IS ', k.conname, k.conrelid::regclass)"
            + " FROM pg_constraint k WHERE k.contype = 'f' AND k.conparentid = 0"
            + " AND (k.conrelid IN (@) OR k.confrelid IN (@)) ORDER BY k.oid".replace("@", oids()),
        row -> {
          takenOff.add(row.getString(1));
          putBack.add(row.getString(2));
          if (row.getString(3) != null) {
            putBack.add(row.getString(4) + Sql.literal(row.getString(3)));
          }
        });
    session.query(
        "SELECT format('ALTER TABLE %s DISABLE TRIGGER %I', t.tgrelid::regclass, t.tgname),"
            + " format('ALTER TABLE %s ENABLE%s TRIGGER %I', t.tgrelid::regclass,"
            + " CASE t.tgenabled WHEN 'A' THEN ' ALWAYS' WHEN 'R' THEN ' REPLICA' ELSE '' END,"
            + " t.tgname) FROM pg_trigger t WHERE NOT t.tgisinternal AND t.tgparentid = 0"
            + " AND t.tgenabled <> 'D' AND t.tgrelid IN (@)".replace("@", oids()),
        row -> {
          takenOff.add(row.getString(1));
          putBack.add(row.getString(2));
        });
    for (String statement : takenOff) {
      doing = statement;
      session.execute(statement);
    }
    if (!emptied.isEmpty()) {
      doing = "TRUNCATE";
      session.execute("TRUNCATE " + String.join(", ", emptied));
    }
  }

  @Override
  public String copyInto(Table table) {
    return "COPY "
        + catalog.storage(table.name()).relation()
        + Sql.list(table.written())
        + " FROM STDIN";
  }

  @Override
  public void complete(Counting source) throws SQLException {
    for (String statement : putBack) {
      doing = statement;
      session.execute(statement);
    }
    continueSequences(source);
    refresh();
  }

  private void refresh() throws SQLException {
    List<String> views = new ArrayList<>();
    session.query(
        "SELECT c.oid::regclass::text FROM pg_class c JOIN pg_namespace n"
            + " ON n.oid = c.relnamespace WHERE c.relkind = 'm' AND c.relispopulated AND "
            + PostgresqlCatalog.USER_SCHEMA
            + " ORDER BY c.oid",
        row -> views.add(row.getString(1)));
    for (String view : views) {
      doing = view;
      session.execute("REFRESH MATERIALIZED VIEW " + view);
    }
    for (Table table : schema.tables()) {
      doing = "statistics of " + table.name();
      session.execute("ANALYZE " + catalog.storage(table.name()).relation());
    }
  }

  /** Puts back what {@link #prepare} took off, and makes again what was made of the rows. */
  void restore() throws SQLException {
    for (String statement : putBack) {
      doing = statement;
      session.execute(statement);
    }
    refresh();
  }

  /** Counters go on behind the keys that are in use; RESTART, unlike setval, can be undone. */
  private void continueSequences(Counting source) throws SQLException {
    Map<TableName, Long> positions = source.counters();
    for (SequencePosition counter : Positions.of(session, catalog.home())) {
      Table table =
          counter.table().isEmpty()
              ? null
              : schema.table(new TableName(counter.tableSchema(), counter.table()));
      if (table == null || counter.increment() < 0) {
        continue;
      }
      doing = counter.name();
      String most =
          session.one(
              "SELECT max("
                  + Sql.quoted(counter.column())
                  + ")::bigint FROM "
                  + Sql.quoted(table.name()));
      long used =
          Math.max(
              positions.getOrDefault(table.name(), 0L), most == null ? 0 : Long.parseLong(most));
      if (used > 0) {
        session.execute(
            "ALTER SEQUENCE " + counter.name() + " RESTART WITH " + (used + counter.increment()));
      }
    }
    continueNamed();
  }

  /**
   * The same for sequences that belong to no column, but are named in its default: in whatever
   * form, as in the text of a cast nothing depends on them.
   */
  private void continueNamed() throws SQLException {
    List<String[]> defaults = new ArrayList<>();
    session.query(
        "SELECT x.relation, x.attname, to_regclass(x.name) FROM (SELECT a.attrelid::regclass::text"
            + " AS relation, quote_ident(a.attname) AS attname,"
            + " substring(pg_get_expr(d.adbin, d.adrelid) FROM 'nextval\\(\\(*''([^'']+)''')"
            + " AS name FROM pg_attrdef d JOIN pg_attribute a ON a.attrelid = d.adrelid"
            + " AND a.attnum = d.adnum AND a.attgenerated = '' WHERE d.adrelid IN ("
            + oids()
            + ")) x JOIN pg_class c ON c.oid = to_regclass(x.name) AND c.relkind = 'S'"
            + " WHERE NOT EXISTS (SELECT FROM pg_depend p WHERE p.classid = 'pg_class'::regclass"
            + " AND p.objid = c.oid AND p.refclassid = 'pg_class'::regclass"
            + " AND p.deptype IN ('a', 'i') AND p.refobjsubid > 0)",
        row -> defaults.add(new String[] {row.getString(1), row.getString(2), row.getString(3)}));
    for (String[] named : defaults) {
      doing = named[2];
      String behind =
          session.one(
              "SELECT max("
                  + named[1]
                  + ")::bigint + 1 FROM "
                  + named[0]
                  + " HAVING max("
                  + named[1]
                  + ")::bigint >= (SELECT last_value FROM "
                  + named[2]
                  + ")");
      if (behind != null) {
        session.execute("ALTER SEQUENCE " + named[2] + " RESTART WITH " + behind);
      }
    }
  }

  @Override
  public List<String> made() throws SQLException {
    List<String> made = new ArrayList<>();
    for (Table table : schema.tables()) {
      made.add(session.one("SELECT " + catalog.storage(table.name()).oid() + "::regclass"));
    }
    return made;
  }

  @Override
  public String doing() {
    return doing;
  }
}
