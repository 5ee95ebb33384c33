package yemble.core.own;

/**
 * Pseudo-random bytes for texts, under the project's key and within the scope of the mask: the same
 * text gives the same bytes, in every row, run and thread.
 */
public interface KeyedBytes {
  /** So many bytes for a text. */
  byte[] of(String text, int length);

  /** A number from 0 to {@code bound - 1} for a text. */
  long below(String text, long bound);
}
