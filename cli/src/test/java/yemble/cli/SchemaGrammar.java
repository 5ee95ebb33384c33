package yemble.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/**
 * Draws schemas with rows, as odd as an engine lets them be: names, types, values at the edges of
 * what they hold, defaults, keys, checks, computed columns. A statement may be one that the engine
 * refuses; then it is left out.
 */
final class SchemaGrammar {
  /** A table of a schema, and the statements that fill it. */
  record Drawn(String name, List<String> columns, String create, List<String> inserts) {}

  private static final List<String> NAMES =
      List.of(
          "id",
          "order",
          "select",
          "Group",
          "name",
          "NAME2",
          "two words",
          "a.b",
          "it's",
          "say \"hi\"",
          "back`tick",
          "price $",
          "100%",
          "1st",
          "größe",
          "表",
          "🛳",
          "back\\slash",
          "semi;colon",
          "rowid",
          "oid",
          "key",
          "value",
          "user",
          "comment--",
          "/*c*/",
          "[x]",
          "{y}",
          "a_very_long_name_that_fills_all_of_the_sixty_three_characters__",
          "tab\there",
          "line\nfeed",
          "e-mail",
          "null",
          "$.path",
          "*",
          "#hash");

  private static final List<String> TEXTS =
      List.of(
          "''",
          "' '",
          "'a'",
          "'A'",
          "'é'",
          "'日本語'",
          "'🛳🛳'",
          "'it''s'",
          "'a,b'",
          "'\"q\"'",
          "'line\nfeed'",
          "'tab\there'",
          "'null'",
          "'NULL'",
          "'\\N'",
          "'back\\\\slash'",
          "'$1'",
          "'0'",
          "'-'",
          "'trail  '",
          "'x'");

  private static final List<String> SQLITE_ODD =
      List.of("CAST(x'ff41' AS TEXT)", "'a' || char(0) || 'b'");

  private static final Map<String, Map<String, List<String>>> TYPES = new LinkedHashMap<>();

  static {
    Map<String, List<String>> sqlite = new LinkedHashMap<>();
    List<String> whole = List.of("0", "1", "-1", "9223372036854775807", "-9223372036854775808");
    sqlite.put("INTEGER", whole);
    sqlite.put("INT", List.of("7", "'seven'", "1.5", "2147483648"));
    sqlite.put("TEXT", TEXTS);
    sqlite.put("VARCHAR(10)", TEXTS);
    sqlite.put("REAL", List.of("0.1", "-0.0", "1e300", "9e999", "-9e999", "3"));
    sqlite.put("NUMERIC", List.of("692.0", "0.1", "'x'", "1e20", "12345678901234567890"));
    sqlite.put("DECIMAL(10,2)", List.of("1.10", "-0.05", "99999999.99", "123456789012"));
    sqlite.put("BLOB", List.of("x''", "x'00ff'", "'text'", "1"));
    sqlite.put("DATE", List.of("'2024-02-29'", "'0001-01-01'", "'not a day'", "20240101"));
    sqlite.put("DATETIME", List.of("'2024-02-29 23:59:59.123456'", "'2024-02-29'", "1700000000"));
    sqlite.put("BOOLEAN", List.of("0", "1", "2", "'true'"));
    sqlite.put("", List.of("1", "1.5", "'t'", "x'ff'", "9e999"));
    sqlite.put("JSON", List.of("'{\"a\": 1e5, \"a\": 2}'", "'[]'", "'not json'", "'{\"n\":1.10}'"));
    TYPES.put("sqlite", sqlite);
    Map<String, List<String>> postgresql = new LinkedHashMap<>();
    postgresql.put("smallint", List.of("0", "-32768", "32767"));
    postgresql.put("integer", List.of("0", "-2147483648", "2147483647"));
    postgresql.put("bigint", whole);
    postgresql.put("numeric", List.of("0", "'NaN'", "1e30", "0.00000000000000000001", "-1.50"));
    postgresql.put("numeric(10,2)", List.of("0", "-0.01", "99999999.99", "'NaN'"));
    postgresql.put("numeric(5,5)", List.of("0", "0.12345", "-0.99999"));
    postgresql.put("numeric(3,5)", List.of("0", "0.00999"));
    postgresql.put("real", List.of("1.1", "'NaN'", "'-Infinity'", "'-0'", "3.4e38"));
    postgresql.put("double precision", List.of("0.1", "'Infinity'", "'-0'", "1e308"));
    postgresql.put("text", TEXTS);
    postgresql.put("varchar(20)", TEXTS);
    postgresql.put("char(5)", List.of("'a'", "'ab   '", "''", "'äöü'"));
    postgresql.put("\"char\"", List.of("'a'", "''"));
    postgresql.put("bytea", List.of("'\\x'", "'\\x00ff10'"));
    postgresql.put("boolean", List.of("true", "false"));
    postgresql.put(
        "date", List.of("'2024-02-29'", "'0044-03-15 BC'", "'infinity'", "'9999-12-31'"));
    postgresql.put("time", List.of("'24:00'", "'00:00:00.000001'", "'12:30'"));
    postgresql.put("timetz", List.of("'12:30+05:30'"));
    postgresql.put(
        "timestamp", List.of("'2024-02-29 23:59:59.999999'", "'-infinity'", "'0001-01-01'"));
    postgresql.put("timestamptz", List.of("'2024-02-29 23:59:59+14'", "'infinity'"));
    postgresql.put("interval", List.of("'1 year -3 days 00:00:01'", "'-1 month'"));
    postgresql.put("uuid", List.of("'00000000-0000-0000-0000-000000000001'"));
    postgresql.put("json", List.of("'{\"a\": 1e5, \"a\": 2}'", "'[1.10, null]'", "'\"x\"'"));
    postgresql.put("jsonb", List.of("'{\"b\": 1, \"a\": [\"\\u00e9\"]}'", "'1.10'", "'null'"));
    postgresql.put("inet", List.of("'10.0.0.1/8'", "'::1'"));
    postgresql.put("macaddr", List.of("'08:00:2b:01:02:03'"));
    postgresql.put("int[]", List.of("'{}'", "'{1,NULL,3}'", "'{{1,2},{3,4}}'"));
    postgresql.put("text[]", List.of("'{}'", "'{\"a,b\",NULL,\"\"}'"));
    postgresql.put("int4range", List.of("'empty'", "'[1,5)'", "'(,3)'"));
    postgresql.put("bit(5)", List.of("B'10101'"));
    postgresql.put("varbit", List.of("B''", "B'1'"));
    postgresql.put("money", List.of("'1.50'"));
    postgresql.put("point", List.of("'(1.5,-2)'"));
    postgresql.put("xml", List.of("'<a>x</a>'"));
    postgresql.put("tsvector", List.of("'ship:1 sea:2'"));
    TYPES.put("postgresql", postgresql);
    Map<String, List<String>> mariadb = new LinkedHashMap<>();
    mariadb.put("TINYINT(1)", List.of("0", "1", "2", "-128"));
    mariadb.put("TINYINT UNSIGNED", List.of("0", "255"));
    mariadb.put("SMALLINT", List.of("-32768", "32767"));
    mariadb.put("MEDIUMINT UNSIGNED", List.of("16777215"));
    mariadb.put("INT", List.of("0", "-2147483648"));
    mariadb.put("INT UNSIGNED", List.of("4294967295"));
    mariadb.put("BIGINT", whole);
    mariadb.put("BIGINT UNSIGNED", List.of("0", "18446744073709551615"));
    mariadb.put("DECIMAL(65,30)", List.of("0", "1.000000000000000000000000000001"));
    mariadb.put("DECIMAL(5,5)", List.of("0", "0.12345", "-0.99999"));
    mariadb.put("FLOAT", List.of("1.1", "-0.0", "3.4e38"));
    mariadb.put("DOUBLE", List.of("0.1", "1e308", "-1e-300"));
    mariadb.put("CHAR(5)", List.of("'a'", "''", "'äöü'"));
    mariadb.put("VARCHAR(20)", TEXTS);
    mariadb.put("VARCHAR(20) CHARACTER SET latin1", List.of("'é'", "''", "'x'"));
    mariadb.put("VARCHAR(20) COLLATE utf8mb4_bin", TEXTS);
    mariadb.put("TEXT", TEXTS);
    mariadb.put("TINYTEXT", TEXTS);
    mariadb.put("BINARY(4)", List.of("x'00'", "x'01020304'", "x'ff00ff27'"));
    mariadb.put("VARBINARY(8)", List.of("x''", "x'00ff'"));
    mariadb.put("BLOB", List.of("x''", "x'00ff0a0d09'"));
    mariadb.put("DATE", List.of("'2024-02-29'", "'1000-01-01'", "'0000-00-00'", "'2024-00-00'"));
    mariadb.put("DATETIME(6)", List.of("'2024-02-29 23:59:59.999999'", "'0000-00-00 00:00:00'"));
    mariadb.put("TIMESTAMP NULL", List.of("'2024-02-29 23:59:59'", "'1971-01-01 00:00:00'"));
    mariadb.put("TIME(3)", List.of("'838:59:59'", "'-00:00:01.5'", "'12:30'"));
    mariadb.put("YEAR", List.of("1901", "2155", "0"));
    mariadb.put("ENUM('a','b''c','')", List.of("'a'", "'b''c'", "''"));
    mariadb.put("SET('x','y','z')", List.of("''", "'x,z'"));
    mariadb.put("JSON", List.of("'{\"a\": 1e5, \"a\": 2}'", "'[1.10]'"));
    mariadb.put("UUID", List.of("'00000000-0000-0000-0000-000000000001'"));
    mariadb.put("INET6", List.of("'::1'"));
    TYPES.put("mariadb", mariadb);
  }

  private final String engine;
  private final Random random;

  SchemaGrammar(String engine, Random random) {
    this.engine = engine;
    this.random = random;
  }

  /** A name as the engine quotes it. */
  static String quoted(String engine, String name) {
    return engine.equals("mariadb")
        ? '`' + name.replace("`", "``") + '`'
        : '"' + name.replace("\"", "\"\"") + '"';
  }

  private String quoted(String name) {
    return quoted(engine, name);
  }

  private <T> T one(List<T> of) {
    return of.get(random.nextInt(of.size()));
  }

  /** Once in so many times. */
  private boolean once(int in) {
    return random.nextInt(in) == 0;
  }

  /** Tables of different names, in the order in which they are made. */
  List<Drawn> tables() {
    List<Drawn> tables = new ArrayList<>();
    List<String> names = new ArrayList<>();
    int count = 1 + random.nextInt(3);
    while (names.size() < count) {
      String name = once(3) ? one(NAMES) : one(NAMES) + names.size();
      if (names.stream().noneMatch(name::equalsIgnoreCase) && name.length() <= 63) {
        names.add(name);
        tables.add(table(name, tables));
      }
    }
    return tables;
  }

  private Drawn table(String name, List<Drawn> before) {
    List<String> names = new ArrayList<>();
    List<String> types = new ArrayList<>();
    List<String> parts = new ArrayList<>();
    int count = 1 + random.nextInt(6);
    boolean numbered = once(2);
    if (numbered) {
      names.add("n");
      types.add("");
      parts.add(quoted("n") + " " + number());
    }
    List<String> known = List.copyOf(TYPES.get(engine).keySet());
    while (names.size() < count + (numbered ? 1 : 0)) {
      String column = one(NAMES);
      if (names.stream().anyMatch(column::equalsIgnoreCase)) {
        continue;
      }
      String type = one(known);
      names.add(column);
      types.add(type);
      parts.add(column(column, type));
    }
    if (!before.isEmpty() && once(2)) {
      Drawn parent = one(before);
      if (parent.columns().contains("n")) {
        names.add("parent");
        types.add("parent");
        parts.add(
            quoted("parent")
                + (engine.equals("mariadb") ? " BIGINT" : " bigint")
                + (once(3) ? " NOT NULL" : ""));
        parts.add(
            "FOREIGN KEY ("
                + quoted("parent")
                + ") REFERENCES "
                + quoted(parent.name())
                + " ("
                + quoted("n")
                + ")");
      }
    }
    if (!numbered && once(3)) {
      parts.add("PRIMARY KEY (" + quoted(names.get(0)) + ")");
    }
    if (once(4) && !types.get(types.size() - 1).equals("BOOLEAN")) {
      parts.add("UNIQUE (" + quoted(names.get(names.size() - 1)) + ")");
    }
    if (once(5)) {
      parts.add("CHECK (" + quoted(names.get(names.size() - 1)) + " IS NULL OR 1 = 1)");
    }
    if (once(6)) {
      parts.add(
          quoted("made")
              + (engine.equals("postgresql") ? " bigint" : " BIGINT")
              + " GENERATED ALWAYS AS (1 + "
              + (numbered && !engine.equals("mariadb") ? quoted("n") : "1")
              + ") STORED");
    }
    String create =
        "CREATE TABLE "
            + quoted(name)
            + " ("
            + String.join(", ", parts)
            + ")"
            + (engine.equals("sqlite") && numbered && once(5) ? " WITHOUT ROWID" : "");
    return new Drawn(name, names, create, inserts(name, names, types));
  }

  private String number() {
    return switch (engine) {
      case "postgresql" ->
          once(2) ? "bigserial PRIMARY KEY" : "bigint GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY";
      case "mariadb" -> "BIGINT AUTO_INCREMENT PRIMARY KEY";
      default -> "INTEGER PRIMARY KEY";
    };
  }

  private String column(String name, String type) {
    StringBuilder column = new StringBuilder(quoted(name) + " " + type);
    if (once(5)) {
      column.append(" DEFAULT ").append(one(TYPES.get(engine).get(type)));
    }
    if (once(5) && !type.endsWith("NULL")) {
      column.append(" NOT NULL");
    }
    return column.toString();
  }

  private List<String> inserts(String name, List<String> names, List<String> types) {
    List<String> inserts = new ArrayList<>();
    int rows = random.nextInt(9);
    for (int i = 1; i <= rows; i++) {
      List<String> values = new ArrayList<>();
      for (int c = 0; c < names.size(); c++) {
        values.add(value(names.get(c), types.get(c), i));
      }
      inserts.add(
          "INSERT INTO "
              + quoted(name)
              + " ("
              + String.join(", ", names.stream().map(this::quoted).toList())
              + ") VALUES ("
              + String.join(", ", values)
              + ")");
    }
    return inserts;
  }

  private String value(String column, String type, int row) {
    if (column.equals("n")) {
      return Integer.toString(row);
    }
    if (type.equals("parent")) {
      return once(4) ? "NULL" : Integer.toString(1 + random.nextInt(3));
    }
    if (once(5)) {
      return "NULL";
    }
    return engine.equals("sqlite") && type.equals("TEXT") && once(8)
        ? one(SQLITE_ODD)
        : one(TYPES.get(engine).get(type));
  }
}
