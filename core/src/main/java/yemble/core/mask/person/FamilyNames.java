package yemble.core.mask.person;

import java.util.AbstractList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.mask.shape.Script;
import yemble.core.vocabulary.Vocabularies;

/** Family names made of two parts each, the first of a list and the second of another. */
public final class FamilyNames implements Names.Vocabulary {
  private static final String LETTERS = "ABCDEFGHKLMOPRSTW";

  private final Map<Character, List<String>> names = new HashMap<>();

  private FamilyNames(List<String> first, List<String> second) {
    for (char letter : LETTERS.toCharArray()) {
      List<String> begin = first.stream().filter(part -> part.charAt(0) == letter).toList();
      names.put(letter, new Joined(begin, second));
    }
  }

  public static FamilyNames load() {
    return new FamilyNames(Vocabularies.load("family-first"), Vocabularies.load("family-second"));
  }

  @Override
  public String letters() {
    return LETTERS;
  }

  @Override
  public List<String> choices(String word, char letter) {
    return names.get(letter);
  }

  @Override
  public List<String> choices(String word, Script.Native script) {
    return NamesInScripts.family(script, word);
  }

  /** Each first part with each second one. */
  private static final class Joined extends AbstractList<String> {
    private final List<String> first;
    private final List<String> second;

    Joined(List<String> first, List<String> second) {
      this.first = first;
      this.second = second;
    }

    @Override
    public int size() {
      return first.size() * second.size();
    }

    @Override
    public String get(int index) {
      return joined(first.get(index / second.size()), second.get(index % second.size()));
    }

    /** Three equal letters in a row become two. */
    private static String joined(String head, String tail) {
      int end = head.length();
      boolean three =
          end > 1
              && head.charAt(end - 1) == head.charAt(end - 2)
              && head.charAt(end - 1) == tail.charAt(0);
      return three ? head + tail.substring(1) : head + tail;
    }
  }
}
