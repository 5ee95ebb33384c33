package yemble.jdbc.expression;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.SqlStatement;

/**
 * Cuts a file into statements as the engine's own client does.
 *
 * <ul>
 *   <li>PostgreSQL: at a semicolon outside of brackets, quotes and comments, and of the body of a
 *       routine between BEGIN and END (the rules of {@code psqlscan.l}).
 *   <li>MariaDB: at the delimiter outside of quotes and comments; a line {@code DELIMITER //} makes
 *       another one (the rules of the {@code mariadb} client).
 *   <li>SQLite: at a semicolon outside of quotes and comments; that of a trigger behind its END
 *       (the rules of {@code sqlite3_complete}).
 * </ul>
 */
public final class SqlFile {
  /** How a client cuts beyond quotes and comments. */
  public enum Habit {
    /** A line that begins with {@code delimiter} makes another one. */
    DELIMITER_LINES,
    /** Semicolons in brackets, and in bodies of routines between BEGIN and END, cut nothing. */
    ROUTINES,
    /** A trigger ends behind its END. */
    TRIGGERS,
    /** The end of the text ends a comment. */
    OPEN_COMMENTS,
    /** What stands in comments that begin with an exclamation mark is executed. */
    EXECUTED_COMMENTS
  }

  /**
   * The rules of an engine's client.
   *
   * @param lexicon where quotes and comments end
   */
  public record Rules(Lexicon lexicon, Set<Habit> habits) {
    public Rules {
      habits = Set.copyOf(habits);
    }
  }

  private static final Pattern DELIMITER =
      Pattern.compile("(?i)[ \\t]*delimiter[ \\t]+(\\S+)[^\\n]*(?:\\n|$)");
  private static final Pattern WORD = Pattern.compile("[\\p{L}_][\\p{L}\\p{N}_$]*");
  private static final Pattern PARAMETER = Pattern.compile(":([A-Za-z_][A-Za-z0-9_]*)");
  private static final Pattern TAG = Pattern.compile("\\$(?:[\\p{L}_][\\p{L}\\p{N}_]*)?\\$");

  private final Rules rules;
  private final String text;
  private final String file;
  private final List<SqlStatement> statements = new ArrayList<>();
  private String delimiter = ";";
  private int at;

  private SqlFile(Rules rules, String text, String file) {
    this.rules = rules;
    this.text = text;
    this.file = file;
  }

  /**
   * The statements of a file.
   *
   * @param file its name, for messages
   * @throws Problem of type USAGE if a quote or a comment has no end
   */
  public static List<SqlStatement> statements(Rules rules, String text, String file) {
    SqlFile cut = new SqlFile(rules, text.startsWith("\uFEFF") ? text.substring(1) : text, file);
    while (cut.at < cut.text.length()) {
      cut.statement();
    }
    return cut.statements;
  }

  /** A statement with a mark in the place of each parameter that has a value. */
  public record Marked(String sql, List<String> names) {}

  /**
   * Puts JDBC's mark in the place of parameters.
   *
   * @param doubled whether JDBC wants other question marks twice
   */
  public static Marked marked(
      Rules rules, String statement, Map<String, String> values, boolean doubled) {
    SqlFile cut = new SqlFile(rules, statement, "");
    StringBuilder sql = new StringBuilder();
    List<String> names = new ArrayList<>();
    while (cut.at < statement.length()) {
      int from = cut.at;
      if (cut.skipped()) {
        sql.append(statement, from, cut.at);
        continue;
      }
      Matcher parameter = PARAMETER.matcher(statement).region(from, statement.length());
      boolean cast = statement.startsWith("::", from);
      if (cast) {
        sql.append("::");
        cut.at += 2;
      } else if (parameter.lookingAt() && values.containsKey(parameter.group(1))) {
        sql.append('?');
        names.add(parameter.group(1));
        cut.at = parameter.end();
      } else {
        char c = statement.charAt(from);
        sql.append(c == '?' && doubled ? "??" : String.valueOf(c));
        cut.at++;
      }
    }
    return new Marked(sql.toString(), names);
  }

  private boolean has(Habit habit) {
    return rules.habits().contains(habit);
  }

  private int line(int position) {
    return 1 + (int) text.substring(0, position).chars().filter(c -> c == '\n').count();
  }

  private boolean is(String characters) {
    return text.startsWith(characters, at);
  }

  private boolean beginsLine() {
    int before = at - 1;
    while (before >= 0 && (text.charAt(before) == ' ' || text.charAt(before) == '\t')) {
      before--;
    }
    return before < 0 || text.charAt(before) == '\n';
  }

  /** Cuts the next statement, if any is left. */
  private void statement() {
    int start = -1;
    int brackets = 0;
    int blocks = 0;
    List<String> first = new ArrayList<>();
    boolean trigger = false;
    boolean semicolon = false;
    boolean triggerEnds = false;
    while (at < text.length()) {
      if (start < 0 && has(Habit.DELIMITER_LINES) && beginsLine()) {
        Matcher command = DELIMITER.matcher(text).region(at, text.length());
        if (command.lookingAt()) {
          delimiter = command.group(1);
          at = command.end();
          continue;
        }
      }
      char c = text.charAt(at);
      if (Character.isWhitespace(c)) {
        at++;
        continue;
      }
      int from = at;
      if (comment()) {
        // One that the server executes is part of a statement.
        start = start < 0 && isExecuted(from) ? from : start;
        continue;
      }
      boolean ends = brackets == 0 && blocks == 0 && (!trigger || triggerEnds);
      if (is(delimiter) && ends) {
        add(start, at);
        at += delimiter.length();
        return;
      }
      start = start < 0 ? at : start;
      boolean behindSemicolon = semicolon;
      semicolon = c == ';';
      triggerEnds = false;
      if (quote()) {
        continue;
      }
      Matcher word = WORD.matcher(text).region(at, text.length());
      if (word.lookingAt()) {
        String upper = word.group().toUpperCase(Locale.ROOT);
        if (first.size() < 6) {
          first.add(upper);
        }
        trigger |= has(Habit.TRIGGERS) && makesTrigger(first);
        if (has(Habit.ROUTINES) && makesRoutine(first) && brackets == 0) {
          blocks += upper.equals("BEGIN") || (blocks > 0 && upper.equals("CASE")) ? 1 : 0;
          blocks -= blocks > 0 && upper.equals("END") ? 1 : 0;
        }
        triggerEnds = behindSemicolon && upper.equals("END");
        // A delimiter may stand at the end of a word: END$$.
        int delimited = word.group().indexOf(delimiter);
        at = delimited > 0 ? at + delimited : word.end();
        continue;
      }
      if (has(Habit.ROUTINES)) {
        brackets += c == '(' ? 1 : c == ')' && brackets > 0 ? -1 : 0;
      }
      at++;
    }
    add(start, at);
  }

  private void add(int start, int end) {
    if (start >= 0) {
      String statement = text.substring(start, end).strip();
      statements.add(new SqlStatement(statements.size() + 1, line(start), statement));
    }
  }

  private static boolean makesTrigger(List<String> first) {
    return first.size() >= 2
        && first.get(0).equals("CREATE")
        && (first.get(1).equals("TRIGGER")
            || first.size() >= 3
                && first.get(1).matches("TEMP|TEMPORARY")
                && first.get(2).equals("TRIGGER"));
  }

  private static boolean makesRoutine(List<String> first) {
    int at = first.size() > 3 && first.get(1).equals("OR") ? 3 : 1;
    return first.size() > at
        && first.get(0).equals("CREATE")
        && first.get(at).matches("FUNCTION|PROCEDURE");
  }

  /** Passes over a comment or something in quotes, if one begins here. */
  private boolean skipped() {
    return comment() || quote();
  }

  private boolean isExecuted(int from) {
    return has(Habit.EXECUTED_COMMENTS)
        && (text.startsWith("/*!", from) || text.startsWith("/*M!", from));
  }

  private boolean comment() {
    boolean dashes =
        is("--")
            && (!rules.lexicon().spacedDashes()
                || at + 2 >= text.length()
                || text.charAt(at + 2) <= ' ');
    if (dashes || (rules.lexicon().hashComments() && is("#"))) {
      int end = text.indexOf('\n', at);
      at = end < 0 ? text.length() : end + 1;
      return true;
    }
    if (!is("/*")) {
      return false;
    }
    int start = at;
    int depth = 1;
    at += 2;
    while (depth > 0) {
      if (at >= text.length()) {
        if (has(Habit.OPEN_COMMENTS)) {
          return true;
        }
        throw open("a comment", start);
      }
      if (is("*/")) {
        depth--;
        at += 2;
      } else if (rules.lexicon().nestedComments() && is("/*")) {
        depth++;
        at += 2;
      } else {
        at++;
      }
    }
    return true;
  }

  private boolean quote() {
    char c = text.charAt(at);
    if (c == '\'' || c == '"' || (c == '`' && rules.lexicon().backquotes())) {
      boolean escapes = c != '`' && rules.lexicon().backslashes() || c == '\'' && isEscaping();
      quoted(c, escapes);
      return true;
    }
    if (c == '[' && rules.lexicon().bracketNames()) {
      int end = text.indexOf(']', at);
      if (end < 0) {
        throw open("a [", at);
      }
      at = end + 1;
      return true;
    }
    if (c == '$' && rules.lexicon().dollarQuotes()) {
      Matcher tag = TAG.matcher(text).region(at, text.length());
      boolean inName = at > 0 && Character.isLetterOrDigit(text.charAt(at - 1));
      if (!inName && tag.lookingAt()) {
        int end = text.indexOf(tag.group(), tag.end());
        if (end < 0) {
          throw open("a text in " + tag.group(), at);
        }
        at = end + tag.group().length();
        return true;
      }
    }
    return false;
  }

  /** Whether the text that begins here is one of PostgreSQL's with escapes: {@code E'…'}. */
  private boolean isEscaping() {
    return rules.lexicon().escapeTexts()
        && at > 0
        && Character.toLowerCase(text.charAt(at - 1)) == 'e'
        && (at == 1 || !Character.isLetterOrDigit(text.charAt(at - 2)));
  }

  private void quoted(char quote, boolean escapes) {
    int start = at;
    at++;
    while (true) {
      if (at >= text.length()) {
        throw open("a " + quote, start);
      }
      char c = text.charAt(at);
      if (c == '\\' && escapes) {
        at += 2;
      } else if (c == quote) {
        at++;
        if (at < text.length() && text.charAt(at) == quote) {
          at++;
        } else {
          return;
        }
      } else {
        at++;
      }
    }
  }

  private Problem open(String what, int start) {
    int line = line(Math.min(start, text.length()));
    int column = start - text.lastIndexOf('\n', Math.max(0, start - 1));
    return Problem.of(Failure.STEP_FORM, what + " has no end")
        .at(file + ":" + line + ":" + Math.max(1, column))
        .remedy("close it");
  }
}
