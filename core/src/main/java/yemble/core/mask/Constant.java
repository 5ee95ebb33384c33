package yemble.core.mask;

/**
 * The mask that puts the same value in the place of every other one.
 *
 * @param value null for NULL
 */
public record Constant(String value) implements Mask {
  @Override
  public boolean leavesBlanks() {
    return false;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    return value;
  }
}
