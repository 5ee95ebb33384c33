package yemble.core.kind;

import java.util.List;

/**
 * A phrase in the name of a column that speaks for a kind.
 *
 * @param kind the kind's name
 * @param words in lower case without accents
 * @param strength how strongly, from 0 to 1
 */
public record Sign(String kind, List<String> words, double strength) {
  public Sign {
    words = List.copyOf(words);
  }
}
