package yemble.jdbc.sqlite;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import yemble.jdbc.expression.ClosedExpression;
import yemble.jdbc.expression.Functions;

/**
 * What SQLite's functions may do, by its own word: it marks those that have no effect whatever they
 * are given ({@code SQLITE_INNOCUOUS}), and the ones that may act are not marked. The driver offers
 * no authorizer.
 */
final class SqliteFunctions implements Functions {
  private static final int INNOCUOUS = 0x200000;

  /** Of those that the driver adds, without the mark, the ones that only compute. */
  private static final Set<String> COMPUTING =
      Set.of(
          "atn2",
          "charindex",
          "cot",
          "coth",
          "difference",
          "leftstr",
          "lower_quartile",
          "match",
          "median",
          "mode",
          "padc",
          "padl",
          "padr",
          "percentile",
          "percentile_cont",
          "percentile_disc",
          "proper",
          "replicate",
          "reverse",
          "rightstr",
          "square",
          "stdev",
          "strfilter",
          "upper_quartile",
          "variance");

  /** Words of the language that brackets follow. */
  private static final Set<String> WORDS =
      Set.of(
          "all",
          "and",
          "as",
          "between",
          "by",
          "case",
          "cast",
          "check",
          "collate",
          "distinct",
          "else",
          "escape",
          "except",
          "exists",
          "filter",
          "from",
          "glob",
          "having",
          "in",
          "intersect",
          "is",
          "join",
          "like",
          "limit",
          "match",
          "materialized",
          "not",
          "null",
          "of",
          "offset",
          "on",
          "or",
          "over",
          "partition",
          "regexp",
          "select",
          "then",
          "union",
          "using",
          "values",
          "json_each",
          "json_tree",
          "generate_series",
          "when",
          "where",
          "with",
          "blob",
          "char",
          "character",
          "decimal",
          "integer",
          "nchar",
          "numeric",
          "nvarchar",
          "real",
          "text",
          "varchar");

  private final Connection connection;
  private Set<String> harmless;

  SqliteFunctions(Connection connection) {
    this.connection = connection;
  }

  @Override
  public Optional<Objection> objection(ClosedExpression expression) throws SQLException {
    for (ClosedExpression.Call call : expression.calls()) {
      if (!WORDS.contains(call.name()) && !harmless().contains(lower(call.name()))) {
        return Optional.of(
            new Objection(
                call.toString(), "is no function of SQLite that is known only to compute", true));
      }
    }
    return expression.names().stream()
        .map(SqliteFunctions::lower)
        .filter(name -> name.startsWith("pragma_") || name.startsWith("sqlite_dbpage"))
        .findFirst()
        .map(name -> new Objection(name, "reaches settings of the database", true));
  }

  private static String lower(String name) {
    return name.toLowerCase(java.util.Locale.ROOT);
  }

  private Set<String> harmless() throws SQLException {
    if (harmless == null) {
      Set<String> found = new HashSet<>();
      try (Statement statement = connection.createStatement();
          ResultSet rows =
              statement.executeQuery("SELECT DISTINCT name, flags FROM pragma_function_list")) {
        while (rows.next()) {
          boolean computes = (rows.getInt(2) & INNOCUOUS) != 0;
          if (computes || COMPUTING.contains(rows.getString(1))) {
            found.add(rows.getString(1));
          }
        }
      }
      harmless = found;
    }
    return harmless;
  }
}
