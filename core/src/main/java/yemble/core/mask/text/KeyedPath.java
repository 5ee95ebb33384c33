package yemble.core.mask.text;

import yemble.core.crypto.Keying;
import yemble.core.mask.Mask;
import yemble.core.mask.Vocabulary;

/**
 * The mask of a path inside JSON whose result depends on another value of the document, or of the
 * row, instead of the path's own. Belongs to one thread.
 */
public final class KeyedPath implements Mask {
  private final String by;
  private final Keying keying;
  private final Mask keyed;
  private final Mask alone;
  private final boolean byArea;
  private boolean isKnown;

  /**
   * @param by a path, or the name of a column
   * @param keying what is told the value
   * @param keyed the mask under it
   * @param alone the mask where there is no such value
   * @param byArea whether the value is a code, of which the postal area counts
   */
  public KeyedPath(String by, Keying keying, Mask keyed, Mask alone, boolean byArea) {
    this.by = by;
    this.keying = keying;
    this.keyed = keyed;
    this.alone = alone;
    this.byArea = byArea;
  }

  /** A path, which begins with {@code $}, or the name of a column. */
  String by() {
    return by;
  }

  /** Whether it depends on a column of the row. */
  boolean isByColumn() {
    return !by.startsWith("$");
  }

  /**
   * Tells the value that the next results depend on.
   *
   * @param value null if there is none
   */
  void tell(String value) {
    isKnown = value != null && !value.isEmpty();
    if (isKnown) {
      keying.set(byArea ? Vocabulary.postalArea(value) : value);
    }
  }

  @Override
  public String apply(String text) {
    return isKnown ? keyed.apply(text) : alone.apply(text);
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }
}
