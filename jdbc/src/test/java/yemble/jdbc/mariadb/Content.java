package yemble.jdbc.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import yemble.jdbc.MariadbServer;

/** All that a database holds, by queries of the tests' own. */
final class Content {
  private Content() {}

  /** Each object's statement, by its sort and name. */
  static Map<String, String> structure(String url) throws SQLException {
    Map<String, String> structure = new TreeMap<>();
    try (Connection connection = MariadbServer.connect(url)) {
      String database = connection.getCatalog();
      for (String sort : List.of("TABLE", "VIEW", "TRIGGER", "FUNCTION", "PROCEDURE")) {
        for (String name : names(connection, sort)) {
          try (Statement statement = connection.createStatement();
              ResultSet row =
                  statement.executeQuery(
                      "SHOW CREATE " + sort + " `" + name.replace("`", "``") + "`")) {
            row.next();
            int column = sort.equals("TABLE") || sort.equals("VIEW") ? 2 : 3;
            structure.put(
                sort + " " + name,
                row.getString(column)
                    + (column == 3 ? " in mode " + row.getString(2) : "").replace(database, ""));
          }
        }
      }
    }
    return structure;
  }

  private static List<String> names(Connection connection, String sort) throws SQLException {
    String query =
        switch (sort) {
          case "TABLE" ->
              "SELECT table_name FROM information_schema.tables WHERE table_schema = database()"
                  + " AND table_type IN ('BASE TABLE', 'SYSTEM VERSIONED')"
                  + " AND table_name NOT LIKE 'yemble%'";
          case "VIEW" ->
              "SELECT table_name FROM information_schema.views WHERE table_schema = database()";
          case "TRIGGER" ->
              "SELECT trigger_name FROM information_schema.triggers"
                  + " WHERE trigger_schema = database()";
          default ->
              "SELECT routine_name FROM information_schema.routines"
                  + " WHERE routine_schema = database() AND routine_type = '"
                  + sort
                  + "'";
        };
    List<String> names = new ArrayList<>();
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        names.add(rows.getString(1));
      }
    }
    return names;
  }

  /** Each table's rows, every value as the hexadecimal digits of its bytes. */
  static Map<String, List<String>> rows(String url) throws SQLException {
    Map<String, List<String>> content = new TreeMap<>();
    try (Connection connection = MariadbServer.connect(url);
        Statement statement = connection.createStatement()) {
      for (String table : names(connection, "TABLE")) {
        String columns;
        try (ResultSet row =
            statement.executeQuery(
                "SELECT group_concat(CASE data_type WHEN 'float' THEN CONCAT("
                    + "'HEX(CAST(CAST(`', column_name, '` AS DOUBLE) AS BINARY))')"
                    + " WHEN 'bit' THEN CONCAT('HEX(`', column_name, '`)')"
                    + " WHEN 'geometry' THEN CONCAT('HEX(ST_AsWKB(`', column_name, '`)), ST_SRID(`',"
                    + " column_name, '`)') WHEN 'point' THEN CONCAT('ST_AsText(`', column_name, '`)')"
                    + " ELSE CONCAT('HEX(CAST(`', column_name, '` AS BINARY))') END"
                    + " ORDER BY ordinal_position) FROM information_schema.columns"
                    + " WHERE table_schema = database() AND table_name = '"
                    + table
                    + "'")) {
          row.next();
          columns = row.getString(1);
        }
        List<String> lines = new ArrayList<>();
        try (ResultSet rows =
            statement.executeQuery(
                "SELECT " + columns + " FROM `" + table.replace("`", "``") + "`")) {
          int count = rows.getMetaData().getColumnCount();
          while (rows.next()) {
            List<String> values = new ArrayList<>();
            for (int i = 1; i <= count; i++) {
              values.add(rows.getString(i));
            }
            lines.add(values.toString());
          }
        }
        lines.sort(null);
        content.put(table, lines);
      }
    }
    return content;
  }
}
