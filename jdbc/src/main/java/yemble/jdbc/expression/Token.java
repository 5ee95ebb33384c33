package yemble.jdbc.expression;

/**
 * A piece of an expression; comments and white space are none.
 *
 * @param text the characters of a word, an operator or a bracket; what a quoted name or a text
 *     holds, without quotes
 * @param start where it begins in the expression
 */
record Token(Sort sort, String text, int start) {
  /** What a token is. */
  enum Sort {
    /** A word that stands bare: a keyword or a name. */
    WORD,
    /** A name in quotes. */
    NAME,
    TEXT,
    NUMBER,
    OPERATOR,
    OPEN,
    CLOSE,
    DOT,
    COMMA
  }

  boolean isName() {
    return sort == Sort.WORD || sort == Sort.NAME;
  }

  boolean isWord(String word) {
    return sort == Sort.WORD && text.equalsIgnoreCase(word);
  }

  /** A word without the case of its ASCII letters, a quoted name as it is. */
  String folded() {
    if (sort != Sort.WORD) {
      return text;
    }
    StringBuilder folded = new StringBuilder(text);
    for (int i = 0; i < folded.length(); i++) {
      char c = folded.charAt(i);
      if (c >= 'A' && c <= 'Z') {
        folded.setCharAt(i, (char) (c + 'a' - 'A'));
      }
    }
    return folded.toString();
  }
}
