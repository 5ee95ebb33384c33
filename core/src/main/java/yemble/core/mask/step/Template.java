package yemble.core.mask.step;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import yemble.core.mask.Mask;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/**
 * A text made of what other columns of the row become: text with pieces in braces, {@code
 * {given-name:1 lower}.{family-name}}.
 */
public record Template(List<Piece> pieces) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "template",
          "`template: TEXT`",
          "text made of the row's masked columns: `{column}` or `{kind}`, behind a colon a number of characters, `lower`, `upper`, `initials`",
          "{\"type\": \"string\"}",
          List.of("'{given-name:1 lower}.{family-name:lower}@orlisay.example'"),
          StepSort.Takes.NO_BYTES,
          Set.of(StepSort.Trait.MAKES_VALUES),
          Template::read);
  private static final int LONGEST = 1_000;

  public Template {
    pieces = List.copyOf(pieces);
  }

  /**
   * A piece.
   *
   * @param literal text that stands as it is; empty for a piece of a column
   * @param column the name of a column, or of a kind that one column of the row has
   * @param first how many characters of it; 0 for all
   * @param style how they are written
   */
  public record Piece(String literal, String column, int first, Style style) {}

  /** How a piece is written. */
  public enum Style {
    PLAIN,
    LOWER,
    UPPER,
    /** The first letter of each word. */
    INITIALS
  }

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    String text = value.word();
    List<Piece> pieces = new ArrayList<>();
    for (int at = 0; at < text.length(); ) {
      int open = text.indexOf('{', at);
      int literalEnd = open < 0 ? text.length() : open;
      if (literalEnd > at) {
        pieces.add(new Piece(text.substring(at, literalEnd), "", 0, Style.PLAIN));
      }
      at = literalEnd;
      if (open >= 0) {
        int close = text.indexOf('}', open);
        if (close < 0) {
          throw value
              .place()
              .problem(Failure.TEMPLATE_FORM, "a brace is opened here and never closed");
        }
        pieces.add(piece(value, text.substring(open + 1, close)));
        at = close + 1;
      }
    }
    if (pieces.stream().allMatch(piece -> piece.column().isEmpty())) {
      throw value
          .place()
          .problem(Failure.TEMPLATE_FORM, "the template names no column")
          .remedy("put the name of a column or a kind into braces, or use fixed: instead");
    }
    return new Template(pieces);
  }

  private static Piece piece(YamlValue value, String text) {
    int colon = text.indexOf(':');
    String column = (colon < 0 ? text : text.substring(0, colon)).strip();
    if (column.isEmpty()) {
      throw value
          .place()
          .problem(Failure.TEMPLATE_FORM, "the braces are empty")
          .remedy("name a column or a kind in them");
    }
    int first = 0;
    Style style = Style.PLAIN;
    for (String word : colon < 0 ? new String[0] : text.substring(colon + 1).strip().split(" +")) {
      if (word.matches("[1-9][0-9]{0,2}")) {
        first = Math.min(Integer.parseInt(word), LONGEST);
      } else {
        style = style(value, word);
      }
    }
    return new Piece("", column, first, style);
  }

  private static Style style(YamlValue value, String word) {
    return switch (word) {
      case "lower", "upper", "initials" -> Style.valueOf(word.toUpperCase(Locale.ROOT));
      default ->
          throw value
              .place()
              .problem(Failure.TEMPLATE_FORM, "unknown word \"" + word + "\" in a template")
              .remedy("behind the colon stand a number of characters, lower, upper or initials");
    };
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public boolean readsRow() {
    return true;
  }

  @Override
  public Mask mask(Making making) {
    throw new IllegalArgumentException("no mask of a value alone: " + words());
  }
}
