package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import yemble.jdbc.expression.ClosedExpression;
import yemble.jdbc.expression.Functions;

/**
 * What functions may do, by the server's catalog. Of its own functions the volatile ones may act;
 * of all others only those are taken at their word that belong to an extension and are not
 * volatile: what somebody wrote in SQL or a procedural language may call anything, whatever it
 * declares.
 *
 * <p>Views that are named, and domains, also within arrays and rows, bring functions of their own,
 * and are looked into; foreign tables ask another server.
 */
final class PostgresqlFunctions implements Functions {
  /** Volatile, but without any effect: their result differs from time to time. */
  private static final String ONLY_DIFFERS =
      "'random', 'random_normal', 'clock_timestamp', 'timeofday', 'gen_random_uuid', 'uuidv4',"
          + " 'uuidv7'";

  /** Not volatile by the catalog's word, and still they act: they take a transaction number. */
  private static final String ACTS = "'txid_current', 'pg_current_xact_id'";

  /** What a person's word does not open: other servers, files, other sessions, settings, SQL. */
  private static final Pattern NEVER =
      Pattern.compile(
          "dblink.*|postgres_fdw.*|lo_.*|loread|lowrite|pg_read_.*|pg_ls_.*|pg_stat_file|pg_file_.*"
              + "|pg_terminate_backend|pg_cancel_backend|pg_reload_conf|pg_rotate_.*|pg_promote"
              + "|pg_(wal_replay|backup|start_backup|stop_backup|switch_wal|create_restore).*"
              + "|pg_(create|drop|copy|logical|replication|sync).*|pg_log_.*|set_config"
              + "|pg_stat_reset.*|pg_stat_clear.*|pg_notify|nextval|setval|txid_current"
              + "|pg_current_xact_id|pg_export_snapshot|pg_.*advisory.*"
              + "|query_to_xml.*|cursor_to_xml.*|ts_stat|ts_rewrite|xpath_table|crosstab.*"
              + "|http(_.*)?|.*_exec|copy_.*|adminpack.*|pg_import.*|brin_.*|gin_clean.*");

  /**
   * Operators that IN, BETWEEN, LIKE, DISTINCT, ORDER BY and the like use without naming them. They
   * count where a column that is named has a type that somebody made one for.
   */
  private static final String IMPLIED =
      "'=', '<>', '<', '<=', '>', '>=', '~~', '!~~', '~~*', '!~~*', '~', '!~'";

  /** Whether a function {@code p} may act. */
  private static final String ACTING =
      " (p.oid < 16384 AND ((p.provolatile = 'v' AND p.proname NOT IN ("
          + ONLY_DIFFERS
          + ")) OR p.proname IN ("
          + ACTS
          + ")) OR p.oid >= 16384 AND (p.provolatile = 'v' OR NOT EXISTS (SELECT FROM pg_depend d"
          + " WHERE d.classid = 'pg_proc'::regclass AND d.objid = p.oid AND d.deptype = 'e')))";

  private final Supplier<Session> session;
  private final Set<String> allowed;

  /**
   * @param session one that can be asked something
   * @param allowed names of functions that a person has allowed
   */
  PostgresqlFunctions(Supplier<Session> session, Set<String> allowed) {
    this.session = session;
    this.allowed = allowed;
  }

  /** An expression, or the definition of something that one names. */
  private record Named(String within, ClosedExpression expression) {}

  @Override
  public Optional<Objection> objection(ClosedExpression expression) throws SQLException {
    Set<String> known = new HashSet<>();
    Deque<Named> open = new ArrayDeque<>();
    open.add(new Named("", expression));
    while (!open.isEmpty()) {
      Named one = open.remove();
      Optional<Objection> objection = of(one.expression());
      if (objection.isEmpty()) {
        objection = definitions(one.expression(), known, open);
      }
      if (objection.isPresent()) {
        return objection.map(o -> within(o, one.within()));
      }
    }
    return Optional.empty();
  }

  private static Objection within(Objection objection, String within) {
    return within.isEmpty()
        ? objection
        : new Objection(
            objection.name(),
            objection.reason() + " (by way of " + within + ")",
            objection.isFinal());
  }

  private Optional<Objection> of(ClosedExpression expression) throws SQLException {
    List<ClosedExpression.Call> calls = expression.calls();
    for (ClosedExpression.Call call : calls) {
      if (NEVER.matcher(call.name().toLowerCase(Locale.ROOT)).matches()) {
        return Optional.of(new Objection(call.name(), "acts on more than this query", true));
      }
    }
    boolean locks =
        expression.says("for", "update")
            || expression.says("for", "share")
            || expression.says("for", "key", "share")
            || expression.says("for", "no", "key", "update");
    if (locks) {
      return Optional.of(new Objection("FOR UPDATE or SHARE", "locks rows", true));
    }
    List<Objection> found = new ArrayList<>();
    acting(
        "p.proname = ANY("
            + array(calls.stream().map(ClosedExpression.Call::name).toList())
            + ") AND (pg_function_is_visible(p.oid) OR n.nspname = ANY("
            + array(calls.stream().map(ClosedExpression.Call::qualifier).toList())
            + "))",
        found);
    acting(
        "p.oid >= 16384 AND p.pronargs - p.pronargdefaults <= 1 AND p.proname = ANY("
            + array(expression.attributes())
            + ")",
        found);
    acting(
        "p.oid IN (SELECT o.oprcode FROM pg_operator o WHERE o.oid >= 16384 AND (o.oprname = ANY("
            + array(expression.operators())
            + ") AND o.oprname NOT IN ("
            + IMPLIED
            + ") OR o.oprname IN ("
            + IMPLIED
            + ") AND EXISTS (SELECT FROM pg_type t LEFT JOIN pg_attribute a ON a.atttypid = t.oid"
            + " AND a.attname = ANY("
            + array(expression.names())
            + ") WHERE t.oid IN (o.oprleft, o.oprright) AND (a.attname IS NOT NULL OR t.typname ="
            + " ANY("
            + array(expression.names())
            + ")))))",
        found);
    acting(
        "p.oid IN (SELECT c.castfunc FROM pg_cast c JOIN pg_type s ON s.oid = c.castsource"
            + " JOIN pg_type t ON t.oid = c.casttarget WHERE c.oid >= 16384 AND (s.typname = ANY("
            + array(expression.names())
            + ") OR t.typname = ANY("
            + array(expression.names())
            + ")))",
        found);
    return found.stream().findFirst();
  }

  private void acting(String which, List<Objection> found) throws SQLException {
    session
        .get()
        .query(
            "SELECT p.proname, n.nspname, p.oid >= 16384 FROM pg_proc p"
                + " JOIN pg_namespace n ON n.oid = p.pronamespace WHERE "
                + which
                + " AND"
                + ACTING
                + " ORDER BY 1, 2",
            row -> {
              String name = row.getString(1);
              if (!allowed.contains(name) && !allowed.contains(row.getString(2) + "." + name)) {
                found.add(
                    new Objection(
                        name,
                        row.getBoolean(3)
                            ? "is a function that somebody wrote, and may do anything"
                            : "is volatile: it may act on more than this query",
                        NEVER.matcher(name.toLowerCase(Locale.ROOT)).matches()));
              }
            });
  }

  /** Views and domains that are named and not known yet are to be looked into. */
  private Optional<Objection> definitions(
      ClosedExpression expression, Set<String> known, Deque<Named> open) throws SQLException {
    String names = array(expression.names());
    List<Objection> found = new ArrayList<>();
    session
        .get()
        .query(
            "WITH RECURSIVE r(oid, top) AS (SELECT c.oid, c.relname FROM pg_class c"
                + " JOIN pg_namespace n ON n.oid = c.relnamespace WHERE c.relname = ANY("
                + names
                + ") AND c.relkind IN ('r', 'p', 'v', 'f')"
                + " AND n.nspname NOT IN ('pg_catalog', 'information_schema')"
                + " UNION SELECT i.inhrelid, r.top FROM pg_inherits i JOIN r ON r.oid = i.inhparent),"
                + " y(oid, top) AS (SELECT t.oid, t.typname FROM pg_type t WHERE t.typname = ANY("
                + names
                + ") UNION SELECT n.oid, y.top FROM y JOIN pg_type t ON t.oid = y.oid, LATERAL"
                + " (SELECT t.typbasetype UNION SELECT t.typelem UNION SELECT a.atttypid FROM"
                + " pg_attribute a WHERE a.attrelid = t.typrelid AND a.attnum > 0 AND t.typrelid > 0"
                + " UNION SELECT g.rngsubtype FROM pg_range g WHERE g.rngtypid = t.oid) n(oid)"
                + " WHERE n.oid > 0)"
                + " SELECT r.top, c.relkind, CASE WHEN c.relkind = 'v' THEN pg_get_viewdef(c.oid) END,"
                + " c.oid::text FROM r JOIN pg_class c ON c.oid = r.oid"
                + " WHERE c.relkind IN ('v', 'f')"
                + " UNION ALL SELECT y.top, 'd', pg_get_constraintdef(k.oid), 'k' || k.oid::text"
                + " FROM y JOIN pg_constraint k ON k.contypid = y.oid",
            row -> {
              String name = row.getString(1);
              if (row.getString(2).equals("f")) {
                found.add(new Objection(name, "is a foreign table: it asks another server", true));
              } else if (known.add(row.getString(4))) {
                Optional<ClosedExpression> definition =
                    ClosedExpression.ifClosed(
                        PostgresqlSql.LEXICON, row.getString(3).replaceFirst(";\\s*$", ""));
                if (definition.isPresent()) {
                  open.add(new Named(name, definition.get()));
                } else {
                  found.add(new Objection(name, "cannot be looked into", true));
                }
              }
            });
    return found.stream().findFirst();
  }

  /** Names as they are and in small letters: servers of one-byte encodings fold all letters. */
  private static String array(Collection<String> names) {
    Set<String> texts = new TreeSet<>(names);
    names.forEach(name -> texts.add(name.toLowerCase(Locale.ROOT)));
    StringBuilder array = new StringBuilder("ARRAY[");
    for (String text : texts) {
      array.append(array.length() == 6 ? "" : ", ").append(Sql.literal(text));
    }
    return array.append("]::text[]").toString();
  }
}
