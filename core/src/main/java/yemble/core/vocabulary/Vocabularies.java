package yemble.core.vocabulary;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Word lists that ship with the tool, one folder a mask version: lists of words parted by spaces,
 * or of entries one a line.
 */
public final class Vocabularies {
  private Vocabularies() {}

  /** Lists as one set. */
  public static Set<String> words(String... names) {
    return Arrays.stream(names)
        .flatMap(name -> load(name).stream())
        .collect(Collectors.toUnmodifiableSet());
  }

  /** The words of a list. */
  public static List<String> load(String name) {
    return lines(name).stream()
        .flatMap(line -> Arrays.stream(line.split("\\s+")))
        .filter(word -> !word.isEmpty())
        .toList();
  }

  /** The entries of a list that has one in each line. */
  public static List<String> lines(String name) {
    try (InputStream in = Vocabularies.class.getResourceAsStream("v1/" + name + ".txt");
        BufferedReader reader =
            new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))) {
      return reader
          .lines()
          .filter(line -> !line.startsWith("#"))
          .map(String::strip)
          .filter(line -> !line.isEmpty())
          .toList();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
