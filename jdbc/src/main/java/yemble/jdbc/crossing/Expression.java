package yemble.jdbc.crossing;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Conditions and values of one engine's SQL in another's, where they say no more than all engines
 * understand alike: columns, literals, comparisons, arithmetic, AND, OR, NOT, IN, BETWEEN, IS NULL.
 */
final class Expression {
  private static final Set<String> WORDS =
      Set.of("and", "or", "not", "in", "is", "null", "between", "true", "false");

  /** What PostgreSQL adds to literals and columns. */
  private static final Pattern CAST =
      Pattern.compile(
          "::\\s*\"?(character varying|timestamp without time zone|timestamp with time zone|"
              + "double precision|text|bpchar|citext|integer|bigint|smallint|numeric|date|boolean|"
              + "real|jsonb|json|uuid|character)\"?(\\(\\d+(,\\s*\\d+)?\\))?(\\[\\])?",
          Pattern.CASE_INSENSITIVE);

  private static final Pattern ANY_OF =
      Pattern.compile("=\\s*ANY\\s*\\(+ARRAY\\[([^\\]]*)\\]\\)+", Pattern.CASE_INSENSITIVE);
  private static final Pattern TOKEN =
      Pattern.compile(
          "\\s*(?:('(?:[^']|'')*')|(\\d+(?:\\.\\d+)?)|\"((?:[^\"]|\"\")*)\"|`((?:[^`]|``)*)`"
              + "|([\\p{L}_][\\p{L}\\d_$]*)|(<>|!=|<=|>=|[=<>(),+*/-]))");
  private static final Pattern NOW =
      Pattern.compile(
          "(?i)(now|current_timestamp|localtimestamp|transaction_timestamp)(\\(\\d?\\))?");
  private static final Pattern INTRODUCER =
      Pattern.compile("(?i)\\b_(utf8mb4|utf8|latin1)\\s*(?=')");

  private Expression() {}

  /**
   * A condition in another engine's words; empty if it says more than all engines know.
   *
   * @param columns that may be spoken of
   * @param quoted spells a name
   */
  static Optional<String> condition(
      String sql, List<String> columns, UnaryOperator<String> quoted) {
    String plain = INTRODUCER.matcher(CAST.matcher(sql).replaceAll("")).replaceAll("");
    plain = anyOf(plain);
    List<String> out = new ArrayList<>();
    Matcher token = TOKEN.matcher(plain);
    int at = 0;
    while (at < plain.stripTrailing().length()) {
      if (!token.find(at) || token.start() != at) {
        return Optional.empty();
      }
      at = token.end();
      String name = token.group(3) != null ? token.group(3) : token.group(4);
      String word = token.group(5);
      if (word != null && WORDS.contains(word.toLowerCase(Locale.ROOT))) {
        out.add(word.toUpperCase(Locale.ROOT));
        continue;
      }
      name = word != null ? word : name;
      if (name != null) {
        Optional<String> column = spelled(name, columns);
        if (column.isEmpty()) {
          return Optional.empty();
        }
        out.add(quoted.apply(column.get()));
      } else if (token.group(1) != null && token.group(1).indexOf('\\') >= 0) {
        return Optional.empty();
      } else {
        out.add(token.group().strip());
      }
    }
    return Optional.of(String.join(" ", out));
  }

  /** PostgreSQL's form of IN. */
  private static String anyOf(String sql) {
    Matcher found = ANY_OF.matcher(sql);
    StringBuilder out = new StringBuilder();
    while (found.find()) {
      long open = found.group().chars().filter(c -> c == '(').count();
      long closed = found.group().chars().filter(c -> c == ')').count();
      String rest = ")".repeat((int) Math.max(0, closed - open));
      found.appendReplacement(out, Matcher.quoteReplacement("IN (" + found.group(1) + ")" + rest));
    }
    return found.appendTail(out).toString();
  }

  private static Optional<String> spelled(String name, List<String> columns) {
    return columns.stream().filter(column -> column.equalsIgnoreCase(name)).findFirst();
  }

  /** A column's default in another engine's words; empty if it says more than all engines know. */
  static Optional<String> standard(String sql) {
    String plain = INTRODUCER.matcher(CAST.matcher(sql).replaceAll("")).replaceAll("").strip();
    while (plain.startsWith("(") && plain.endsWith(")")) {
      plain = plain.substring(1, plain.length() - 1).strip();
    }
    if (NOW.matcher(plain).matches()) {
      return Optional.of("CURRENT_TIMESTAMP");
    }
    boolean literal =
        plain.matches("(?i)-?\\d+(\\.\\d+)?|null|true|false|current_date")
            || (plain.matches("'(?:[^']|'')*'") && plain.indexOf('\\') < 0);
    return literal ? Optional.of(plain) : Optional.empty();
  }
}
