package yemble.jdbc.expression;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import yemble.jdbc.expression.Token.Sort;

/**
 * Cuts an expression into tokens as its engine does, and refuses what is not closed: a semicolon, a
 * bracket too many or too few, a quote or a comment without an end, a parameter mark, and every
 * character that the engine gives a meaning which is not known here.
 *
 * <p>Danger: where this cuts otherwise than the engine, a text could be taken for code or code for
 * a text. So doubtful forms are refused ({@code U&''}, texts that go on in the next line behind
 * {@code E''}, comments within comments where the engine does not nest them).
 */
final class Lexer {
  private final Lexicon lexicon;
  private final String text;
  private final boolean statement;
  private final List<Token> tokens = new ArrayList<>();
  private final Deque<Character> open = new ArrayDeque<>();
  private int at;

  private Lexer(Lexicon lexicon, String text, boolean statement) {
    this.statement = statement;
    this.lexicon = lexicon;
    this.text = text;
  }

  static List<Token> tokens(Lexicon lexicon, String text) throws NotClosed {
    Lexer lexer = new Lexer(lexicon, text, false);
    lexer.run();
    return lexer.tokens;
  }

  /** The same of a whole statement out of a catalog, in which semicolons may stand. */
  static List<Token> ofStatement(Lexicon lexicon, String text) throws NotClosed {
    Lexer lexer = new Lexer(lexicon, text, true);
    lexer.run();
    return lexer.tokens;
  }

  private void run() throws NotClosed {
    while (at < text.length()) {
      char c = text.charAt(at);
      if (c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '\f') {
        at++;
      } else if (c < ' ' || (c >= 0x7f && c < 0xa0) || Character.isSurrogate(c) && !paired()) {
        throw new NotClosed("it holds a control character");
      } else if (!comment()) {
        token(c);
      }
    }
    if (!open.isEmpty()) {
      throw new NotClosed("a bracket is opened and not closed");
    }
    if (tokens.isEmpty()) {
      throw new NotClosed("nothing stands there");
    }
  }

  /** Whether the surrogate here is one of a pair, in its order. */
  private boolean paired() {
    return Character.isHighSurrogate(text.charAt(at))
        ? at + 1 < text.length() && Character.isLowSurrogate(text.charAt(at + 1))
        : at > 0 && Character.isHighSurrogate(text.charAt(at - 1));
  }

  private boolean is(String characters) {
    return text.startsWith(characters, at);
  }

  private char next(int ahead) {
    return at + ahead < text.length() ? text.charAt(at + ahead) : '\n';
  }

  /** Passes over a comment, if one begins here. */
  private boolean comment() throws NotClosed {
    boolean dashes = is("--") && dashesBegin();
    boolean block = is("/*");
    boolean hash = lexicon.hashComments() && text.charAt(at) == '#';
    if (!dashes && !block && !hash) {
      return false;
    }
    if (block && !lexicon.blockComments()) {
      throw new NotClosed("it holds a comment of a form that is not known here");
    }
    if (block) {
      blockComment();
    } else {
      while (at < text.length() && !endsLine(text.charAt(at))) {
        if (text.charAt(at) == '\r') {
          throw new NotClosed("a comment in it holds a carriage return, which may end it");
        }
        at++;
      }
    }
    return true;
  }

  private boolean dashesBegin() throws NotClosed {
    if (!lexicon.spacedDashes()) {
      return true;
    }
    char behind = next(2);
    boolean mayBegin = behind > ' ' && !lexicon.hashComments();
    if (behind > '~' || mayBegin) {
      throw new NotClosed("what stands behind -- cannot be told from a comment");
    }
    return behind <= ' ';
  }

  private boolean endsLine(char c) {
    return c == '\n' || (c == '\r' && lexicon.nestedComments());
  }

  private void blockComment() throws NotClosed {
    if (lexicon.hashComments() && (is("/*!") || is("/*M!"))) {
      throw new NotClosed("it holds a comment that the server executes");
    }
    int depth = 1;
    at += 2;
    while (depth > 0) {
      if (at >= text.length()) {
        throw new NotClosed("a comment is begun and not ended");
      }
      if (is("*/")) {
        depth--;
        at += 2;
      } else if (is("/*")) {
        if (!lexicon.nestedComments()) {
          throw new NotClosed("it holds a comment within a comment");
        }
        depth++;
        at += 2;
      } else {
        at++;
      }
    }
  }

  private void token(char c) throws NotClosed {
    if (c == '\'') {
      quoted(Sort.TEXT, '\'', '\'', lexicon.backslashes());
    } else if (c == '"') {
      boolean holdsText = lexicon.doubleQuotedTexts();
      quoted(holdsText ? Sort.TEXT : Sort.NAME, '"', '"', holdsText && lexicon.backslashes());
    } else if (c == '`' && lexicon.backquotes()) {
      quoted(Sort.NAME, '`', '`', false);
    } else if (c == '[' && lexicon.bracketNames()) {
      bracketName();
    } else if (c == '$' && lexicon.dollarQuotes()) {
      dollarQuoted();
    } else if (c >= '0' && c <= '9' || c == '.' && next(1) >= '0' && next(1) <= '9') {
      number();
    } else if (beginsWord(c)) {
      word();
    } else {
      punctuation(c);
    }
  }

  private void punctuation(char c) throws NotClosed {
    switch (c) {
      case '(' -> opened(c);
      case ')' -> closed('(', c);
      case '[' -> {
        if (!lexicon.subscripts()) {
          throw new NotClosed("it holds [, which is not known here");
        }
        opened(c);
      }
      case ']' -> closed('[', c);
      case ',' -> add(Sort.COMMA, 1);
      case '.' -> add(Sort.DOT, 1);
      case ';' -> {
        if (!statement) {
          throw new NotClosed("a ; ends it");
        }
        add(Sort.OPERATOR, 1);
      }
      default -> operator(c);
    }
  }

  private void add(Sort sort, int length) {
    tokens.add(new Token(sort, text.substring(at, at + length), at));
    at += length;
  }

  private void opened(char bracket) {
    open.push(bracket);
    add(Sort.OPEN, 1);
  }

  private void closed(char opening, char bracket) throws NotClosed {
    if (open.isEmpty() || open.pop() != opening) {
      throw new NotClosed("a bracket is closed that was not opened");
    }
    add(Sort.CLOSE, 1);
  }

  private void operator(char c) throws NotClosed {
    boolean label = statement && c == ':';
    if (lexicon.operators().indexOf(c) < 0) {
      throw new NotClosed(
          "?:@#$".indexOf(c) >= 0
              ? "it holds a parameter, " + c
              : "it holds a character that is not known here");
    }
    if (c == ':' && !is("::") && !is(":=") && !label) {
      boolean bound = lexicon.subscripts() && !open.isEmpty() && open.peek() == '[';
      if (!bound) {
        throw new NotClosed("it holds a parameter, :");
      }
    }
    int length = 0;
    while (at + length < text.length()
        && lexicon.operators().indexOf(text.charAt(at + length)) >= 0
        && (length == 0 || !commentAt(at + length))) {
      length++;
    }
    String found = text.substring(at, at + length);
    if (found.contains(":=") && !statement) {
      throw new NotClosed("it sets a variable");
    }
    add(Sort.OPERATOR, length);
  }

  private boolean commentAt(int position) {
    return text.startsWith("--", position) || text.startsWith("/*", position);
  }

  private static boolean beginsWord(char c) {
    return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_' || c >= 0xa0;
  }

  private boolean goesOn(char c) {
    boolean dollar = c == '$' && (lexicon.dollarQuotes() || lexicon.backquotes());
    return beginsWord(c) || c >= '0' && c <= '9' || dollar;
  }

  private void word() throws NotClosed {
    int length = 1;
    while (at + length < text.length() && goesOn(text.charAt(at + length))) {
      length++;
    }
    String word = text.substring(at, at + length);
    char behind = next(length);
    if (lexicon.escapeTexts() && word.equalsIgnoreCase("u") && behind == '&') {
      char quote = next(length + 1);
      if (quote == '\'' || quote == '"') {
        throw new NotClosed("it holds escapes of the form U&");
      }
    }
    if (lexicon.escapeTexts() && word.equalsIgnoreCase("e") && behind == '\'') {
      at += length;
      quoted(Sort.TEXT, '\'', '\'', true);
      refuseContinuation();
      return;
    }
    add(Sort.WORD, length);
  }

  /** A text with escapes that goes on in the next line would go on with escapes. */
  private void refuseContinuation() throws NotClosed {
    int ahead = at;
    while (ahead < text.length() && Character.isWhitespace(text.charAt(ahead))) {
      ahead++;
    }
    if (ahead < text.length() && (text.charAt(ahead) == '\'' || commentAt(ahead))) {
      throw new NotClosed("something follows a text with escapes that may belong to it");
    }
  }

  private void number() {
    int length = 1;
    while (at + length < text.length()) {
      char c = text.charAt(at + length);
      boolean exponent =
          (c == '+' || c == '-')
              && Character.toLowerCase(text.charAt(at + length - 1)) == 'e'
              && next(length + 1) >= '0'
              && next(length + 1) <= '9'
              && !text.regionMatches(true, at, "0x", 0, 2);
      if (c != '.' && !goesOn(c) && !exponent) {
        break;
      }
      length++;
    }
    add(Sort.NUMBER, length);
  }

  private void quoted(Sort sort, char opening, char closing, boolean escapes) throws NotClosed {
    int start = at;
    StringBuilder content = new StringBuilder();
    at++;
    while (true) {
      if (at >= text.length()) {
        throw new NotClosed("a " + opening + " has no end");
      }
      char c = text.charAt(at);
      if (c == 0) {
        throw new NotClosed("it holds a control character");
      }
      if (c == '\\' && !escapes && !lexicon.blockComments()) {
        throw new NotClosed("a backslash may mean anything to this database");
      }
      if (c == '\\' && escapes && at + 1 < text.length()) {
        content.append(text.charAt(at + 1));
        at += 2;
      } else if (c == closing && next(1) == closing && at + 1 < text.length()) {
        content.append(c);
        at += 2;
      } else if (c == closing) {
        at++;
        break;
      } else {
        content.append(c);
        at++;
      }
    }
    tokens.add(new Token(sort, content.toString(), start));
  }

  private void bracketName() throws NotClosed {
    int end = text.indexOf(']', at);
    if (end < 0) {
      throw new NotClosed("a [ has no end");
    }
    tokens.add(new Token(Sort.NAME, text.substring(at + 1, end), at));
    at = end + 1;
  }

  private void dollarQuoted() throws NotClosed {
    int length = 1;
    while (next(length) != '$' && goesOn(next(length))) {
      length++;
    }
    boolean tag = next(length) == '$' && !Character.isDigit(next(1));
    if (!tag) {
      throw new NotClosed("it holds a parameter, $");
    }
    String quote = text.substring(at, at + length + 1);
    int end = text.indexOf(quote, at + quote.length());
    if (end < 0) {
      throw new NotClosed("a text in dollar quotes has no end");
    }
    tokens.add(new Token(Sort.TEXT, text.substring(at + quote.length(), end), at));
    at = end + quote.length();
  }
}
