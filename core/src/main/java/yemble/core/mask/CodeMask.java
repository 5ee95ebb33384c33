package yemble.core.mask;

/** A mask of codes of a system, among which it stays. */
public interface CodeMask extends Mask {
  /** Whether a text is such a code. */
  boolean isOne(String text);
}
