package yemble.core.mask;

/** The mask of values that stay because what goes with them does: a gender, given the names. */
public final class Stays implements Mask {
  @Override
  public String apply(String text) {
    return text;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }
}
