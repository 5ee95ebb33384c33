package yemble.core.crypto;

/** Is told what the functions of one scope are asked and answer, to explain a mask. */
public interface Trace {
  /** The pseudo-random function answered 16 bytes to a message. */
  void asked(byte[] message, byte[] answer);

  /** A permutation of the numbers from 0 to size - 1, under a tweak, moved a number. */
  void moved(String tweak, long size, long from, long to);
}
