package yemble.core.mask;

/**
 * How one value becomes another: a pure function of the text, under the key and the scope it was
 * made with. Belongs to one thread, since it reuses a cipher.
 */
public interface Mask {
  /**
   * The replacement of a text that is not empty.
   *
   * @return never empty; null only from the mask that clears
   */
  String apply(String text);

  /**
   * Whether different values become different ones: always, or but for a small chance that the mask
   * states.
   */
  boolean keepsDifferent();

  /**
   * Whether blanks behind a value are none of it: then they stay, and the mask never sees them. A
   * value that a column pads stays as long as it is, where what it becomes has room for that.
   */
  default boolean leavesBlanks() {
    return true;
  }

  /**
   * Whether two different values may meet, be it with the smallest chance: then columns that must
   * not hold a value twice are looked at before they are loaded.
   */
  default boolean mayMeet() {
    return !keepsDifferent();
  }
}
