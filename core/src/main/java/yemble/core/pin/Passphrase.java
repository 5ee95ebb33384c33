package yemble.core.pin;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.util.List;

/** Passwords that can be read out: four words and a number, drawn from the system's source. */
public final class Passphrase {
  private static final int WORDS = 4;
  private static final int SMALLEST = 100;
  private static final int NUMBERS = 900;
  private static final List<String> LIST = list();
  private static final SecureRandom RANDOM = new SecureRandom();

  private Passphrase() {}

  /** A new one, like {@code amber-canoe-lemon-tulip-472}. */
  public static String random() {
    StringBuilder made = new StringBuilder();
    for (int i = 0; i < WORDS; i++) {
      made.append(LIST.get(RANDOM.nextInt(LIST.size()))).append('-');
    }
    return made.append(SMALLEST + RANDOM.nextInt(NUMBERS)).toString();
  }

  /** How many bits somebody would have to guess, rounded down. */
  public static int bits() {
    return (int) ((WORDS * Math.log(LIST.size()) + Math.log(NUMBERS)) / Math.log(2));
  }

  private static List<String> list() {
    try (InputStream in = Passphrase.class.getResourceAsStream("words.txt")) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .filter(line -> !line.isBlank() && !line.startsWith("#"))
          .toList();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
