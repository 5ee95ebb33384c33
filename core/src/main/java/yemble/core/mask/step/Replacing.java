package yemble.core.mask.step;

import java.util.Map;
import yemble.core.mask.Mask;
import yemble.core.mask.text.Draft;

/**
 * The mask that puts other words in the place of some, found as whole words without regard to case;
 * the rest of a text stays.
 *
 * <p>Normal form: the text itself.
 *
 * @param words what becomes of each
 */
record Replacing(Map<String, String> words) implements Mask {
  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    Draft draft = new Draft(text);
    words.forEach((word, replacement) -> draft.replaceAll(word, found -> replacement));
    return draft.toString();
  }
}
