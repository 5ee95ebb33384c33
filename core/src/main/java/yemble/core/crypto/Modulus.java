package yemble.core.crypto;

/**
 * Remainders of unsigned numbers by one divisor, by a multiplication with its reciprocal where the
 * processor's division would take several times as long.
 *
 * @param divisor from 1 to 2^62
 * @param reciprocal floor((2^64 - 1) / divisor)
 */
record Modulus(long divisor, long reciprocal) {
  private static final long SMALLEST = 3;

  static Modulus of(long divisor) {
    if (divisor < 1 || divisor > 1L << 62) {
      throw new IllegalArgumentException("no divisor of ours");
    }
    return new Modulus(divisor, Long.divideUnsigned(-1L, divisor));
  }

  /**
   * The remainder of an unsigned number. The quotient is the upper half of number times reciprocal,
   * which is at most one too small: the reciprocal is less than one below 2^64 / divisor, so the
   * product is less than number / 2^64 below the true quotient, and cutting it off takes less than
   * one more.
   */
  long remainder(long number) {
    if (divisor < SMALLEST) {
      return number & divisor - 1;
    }
    long quotient = Math.multiplyHigh(number, reciprocal) + (number >> 63 & reciprocal);
    long rest = number - quotient * divisor;
    return rest >= divisor ? rest - divisor : rest;
  }
}
