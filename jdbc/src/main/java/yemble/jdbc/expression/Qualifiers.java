package yemble.jdbc.expression;

import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import yemble.jdbc.expression.Token.Sort;

/**
 * Names of databases in statements out of a catalog. What is made in a target must not lead back to
 * the database that it was read from: a trigger there would write to production.
 */
public final class Qualifiers {
  private final Lexicon lexicon;
  private final String own;
  private final Set<String> others = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);

  /**
   * @param own the database that is read
   * @param others all databases of its server
   */
  public Qualifiers(Lexicon lexicon, String own, Collection<String> others) {
    this.lexicon = lexicon;
    this.own = own;
    this.others.addAll(others);
  }

  /**
   * A statement without the own database's name before other names.
   *
   * @return empty if it names another database, or names the own one in a text, or cannot be told
   */
  public Optional<String> without(String statement) {
    List<Token> tokens;
    try {
      tokens = Lexer.ofStatement(lexicon, statement);
    } catch (NotClosed e) {
      return Optional.empty();
    }
    StringBuilder bare = new StringBuilder(statement);
    for (int i = tokens.size() - 1; i >= 0; i--) {
      Token token = tokens.get(i);
      if (token.sort() == Sort.TEXT && isNamedIn(token.text())) {
        return Optional.empty();
      }
      boolean qualifies =
          token.isName()
              && i + 2 < tokens.size()
              && tokens.get(i + 1).sort() == Sort.DOT
              && !(i > 0 && tokens.get(i - 1).sort() == Sort.DOT);
      if (qualifies && token.text().equalsIgnoreCase(own)) {
        if (isAlias(tokens, token)) {
          return Optional.empty();
        }
        bare.delete(token.start(), tokens.get(i + 2).start());
      } else if (qualifies && others.contains(token.text()) && !isAlias(tokens, token)) {
        return Optional.empty();
      }
    }
    return Optional.of(bare.toString());
  }

  /**
   * Whether a table or an alias is called as a database is: where its name stands without a dot.
   */
  private static boolean isAlias(List<Token> tokens, Token name) {
    for (int i = 0; i < tokens.size(); i++) {
      Token token = tokens.get(i);
      boolean alone =
          token.isName()
              && token.text().equalsIgnoreCase(name.text())
              && !(i + 1 < tokens.size() && tokens.get(i + 1).sort() == Sort.DOT);
      if (alone) {
        return true;
      }
    }
    return false;
  }

  private boolean isNamedIn(String text) {
    String lower = text.toLowerCase(Locale.ROOT);
    return others.stream()
        .map(name -> name.toLowerCase(Locale.ROOT))
        .anyMatch(name -> lower.contains(name + ".") || lower.contains(name + "`."));
  }
}
