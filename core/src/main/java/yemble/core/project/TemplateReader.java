package yemble.core.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import yemble.core.problem.Failure;
import yemble.core.project.MaskStep.Template;
import yemble.core.yaml.YamlValue;

/** Reads a template: text with pieces in braces, {@code {given-name:1 lower}.{family-name}}. */
final class TemplateReader {
  private static final int LONGEST = 1_000;

  private TemplateReader() {}

  static Template read(YamlValue value) {
    String text = value.word();
    List<Template.Piece> pieces = new ArrayList<>();
    for (int at = 0; at < text.length(); ) {
      int open = text.indexOf('{', at);
      int literalEnd = open < 0 ? text.length() : open;
      if (literalEnd > at) {
        pieces.add(new Template.Piece(text.substring(at, literalEnd), "", 0, Template.Style.PLAIN));
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

  private static Template.Piece piece(YamlValue value, String text) {
    int colon = text.indexOf(':');
    String column = (colon < 0 ? text : text.substring(0, colon)).strip();
    if (column.isEmpty()) {
      throw value
          .place()
          .problem(Failure.TEMPLATE_FORM, "the braces are empty")
          .remedy("name a column or a kind in them");
    }
    int first = 0;
    Template.Style style = Template.Style.PLAIN;
    for (String word : colon < 0 ? new String[0] : text.substring(colon + 1).strip().split(" +")) {
      if (word.matches("[1-9][0-9]{0,2}")) {
        first = Math.min(Integer.parseInt(word), LONGEST);
      } else {
        style = style(value, word);
      }
    }
    return new Template.Piece("", column, first, style);
  }

  private static Template.Style style(YamlValue value, String word) {
    return switch (word) {
      case "lower", "upper", "initials" -> Template.Style.valueOf(word.toUpperCase(Locale.ROOT));
      default ->
          throw value
              .place()
              .problem(Failure.TEMPLATE_FORM, "unknown word \"" + word + "\" in a template")
              .remedy("behind the colon stand a number of characters, lower, upper or initials");
    };
  }
}
