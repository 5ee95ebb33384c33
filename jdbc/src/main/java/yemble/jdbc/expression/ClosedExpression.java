package yemble.jdbc.expression;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import yemble.jdbc.expression.Token.Sort;

/** One expression of which it is known that it begins and ends within itself, and what it names. */
public final class ClosedExpression {
  private final String text;
  private final List<Token> tokens;

  private ClosedExpression(String text, List<Token> tokens) {
    this.text = text;
    this.tokens = tokens;
  }

  static ClosedExpression of(Lexicon lexicon, String text) throws NotClosed {
    return new ClosedExpression(text, Lexer.tokens(lexicon, text));
  }

  /** The same for a text that need not be one. */
  public static Optional<ClosedExpression> ifClosed(Lexicon lexicon, String text) {
    try {
      return Optional.of(of(lexicon, text));
    } catch (NotClosed e) {
      return Optional.empty();
    }
  }

  /**
   * Something that is called.
   *
   * @param qualifier the schema or database before its name, or an empty string
   * @param name without case, unless it stands in quotes
   */
  public record Call(String qualifier, String name) {
    @Override
    public String toString() {
      return qualifier.isEmpty() ? name : qualifier + "." + name;
    }
  }

  /** What stands before an opening bracket: functions, and words of the language among them. */
  public List<Call> calls() {
    List<Call> calls = new ArrayList<>();
    for (int i = 0; i + 1 < tokens.size(); i++) {
      Token token = tokens.get(i);
      boolean opens = tokens.get(i + 1).text().equals("(") && is(i + 1, Sort.OPEN);
      if (opens && token.sort() == Sort.NUMBER) {
        calls.add(new Call("", token.text()));
      } else if (opens && token.isName()) {
        boolean qualified = is(i - 1, Sort.DOT) && i >= 2 && tokens.get(i - 2).isName();
        calls.add(new Call(qualified ? tokens.get(i - 2).folded() : "", token.folded()));
      }
    }
    return calls;
  }

  /** Names behind a dot that no bracket follows: columns, or functions of a row. */
  public Set<String> attributes() {
    Set<String> names = new LinkedHashSet<>();
    for (int i = 1; i < tokens.size(); i++) {
      if (tokens.get(i).isName() && is(i - 1, Sort.DOT) && !is(i + 1, Sort.OPEN)) {
        names.add(tokens.get(i).folded());
      }
    }
    return names;
  }

  /** All words and quoted names. */
  public Set<String> names() {
    Set<String> names = new LinkedHashSet<>();
    tokens.stream().filter(Token::isName).forEach(token -> names.add(token.folded()));
    return names;
  }

  public Set<String> operators() {
    Set<String> operators = new LinkedHashSet<>();
    tokens.stream()
        .filter(token -> token.sort() == Sort.OPERATOR)
        .forEach(token -> operators.add(token.text()));
    return operators;
  }

  /** Names that stand before a dot: tables, schemas, databases. */
  public Set<String> qualifiers() {
    Set<String> names = new LinkedHashSet<>();
    for (int i = 0; i + 1 < tokens.size(); i++) {
      if (tokens.get(i).isName() && is(i + 1, Sort.DOT)) {
        names.add(tokens.get(i).folded());
      }
    }
    return names;
  }

  /** Whether bare words follow each other somewhere, whatever their case. */
  public boolean says(String... words) {
    for (int i = 0; i + words.length <= tokens.size(); i++) {
      int same = 0;
      while (same < words.length && tokens.get(i + same).isWord(words[same])) {
        same++;
      }
      if (same == words.length) {
        return true;
      }
    }
    return false;
  }

  /** Whether some text in quotes holds something, whatever its case. */
  public boolean quotes(String part) {
    String lower = part.toLowerCase(Locale.ROOT);
    return tokens.stream()
        .anyMatch(t -> t.sort() == Sort.TEXT && t.text().toLowerCase(Locale.ROOT).contains(lower));
  }

  private boolean is(int index, Sort sort) {
    return index >= 0 && index < tokens.size() && tokens.get(index).sort() == sort;
  }

  /** The text with each question mark of an operator twice, as JDBC writes it. */
  public String doubledMarks() {
    StringBuilder doubled = new StringBuilder(text);
    for (int i = tokens.size() - 1; i >= 0; i--) {
      Token token = tokens.get(i);
      if (token.sort() == Sort.OPERATOR) {
        doubled.replace(
            token.start(), token.start() + token.text().length(), token.text().replace("?", "??"));
      }
    }
    return doubled.toString();
  }
}
