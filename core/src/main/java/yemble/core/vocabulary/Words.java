package yemble.core.vocabulary;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/** Lists of words that values are looked up in, in lower case without accents. */
public final class Words {
  private Words() {}

  /**
   * The entries of a list, which stand one a line or are parted by commas, in lower case without
   * accents.
   */
  public static Set<String> load(String name) {
    try (InputStream in = Words.class.getResourceAsStream("known/" + name + ".txt")) {
      Set<String> words = new HashSet<>();
      new String(in.readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .filter(line -> !line.startsWith("#"))
          .forEach(
              line -> {
                for (String word : line.split(",")) {
                  if (!word.isBlank()) {
                    words.add(word.strip());
                  }
                }
              });
      return words;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** A text in lower case without accents. */
  public static String plain(String text) {
    boolean ascii = true;
    for (int i = 0; i < text.length() && ascii; i++) {
      ascii = text.charAt(i) < 0x80;
    }
    if (ascii) {
      return text.toLowerCase(Locale.ROOT);
    }
    return Normalizer.normalize(text.toLowerCase(Locale.ROOT), Normalizer.Form.NFD)
        .replaceAll("\\p{M}+", "")
        .replace("ß", "ss")
        .replace("ł", "l")
        .replace("ø", "o")
        .replace("ı", "i");
  }
}
