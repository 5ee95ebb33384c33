package yemble.jdbc.expression;

/**
 * How an engine cuts SQL into tokens, as far as it decides where a text, a name or a comment ends.
 * What an engine does not have is refused, not guessed.
 *
 * @param backslashes whether a backslash escapes within every text in quotes
 * @param escapeTexts whether it does so within {@code E'…'}, and {@code U&} escapes exist
 * @param dollarQuotes whether there are texts like {@code $tag$…$tag$}
 * @param doubleQuotedTexts whether double quotes hold texts and not names
 * @param backquotes whether there are names in backquotes
 * @param bracketNames whether there are names in square brackets; else these are subscripts, if
 *     {@code subscripts} says so
 * @param blockComments whether there are comments between slashes and stars
 * @param hashComments whether {@code #} begins a comment
 * @param nestedComments whether comments lie within each other
 * @param spacedDashes whether {@code --} begins a comment only with white space behind it
 * @param operators the characters that operators are made of
 */
public record Lexicon(
    boolean backslashes,
    boolean escapeTexts,
    boolean dollarQuotes,
    boolean doubleQuotedTexts,
    boolean backquotes,
    boolean bracketNames,
    boolean subscripts,
    boolean blockComments,
    boolean hashComments,
    boolean nestedComments,
    boolean spacedDashes,
    String operators) {

  /** What all engines cut alike: for one that is known by its driver alone. */
  public static final Lexicon STANDARD =
      new Lexicon(
          false, false, false, false, false, false, false, false, false, false, true, "+-*/<>=!%|");
}
