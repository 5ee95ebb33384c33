package yemble.core.mask.step;

import yemble.core.mask.Mask;

/**
 * The mask that hides all letters and digits of a text but its first and last ones. What parts them
 * stays; a text that is no longer than what would be kept is hidden as a whole.
 */
record HiddenMask(int first, int last, char with) implements Mask {
  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    int all = 0;
    for (int i = 0; i < text.length(); i++) {
      all += isHidden(text.charAt(i)) ? 1 : 0;
    }
    boolean some = first + last < all;
    StringBuilder out = new StringBuilder(text.length());
    int at = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (!isHidden(c)) {
        out.append(c);
        continue;
      }
      boolean kept = some && (at < first || at >= all - last);
      out.append(kept ? c : with);
      at++;
    }
    return out.toString();
  }

  private static boolean isHidden(char c) {
    return c > 0x7f || (c >= '0' && c <= '9') || (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z');
  }
}
