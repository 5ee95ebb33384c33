package yemble.core.mask.person;

import java.util.AbstractList;
import java.util.List;
import yemble.core.vocabulary.Vocabularies;

/** Family names made of two parts each, the first of a list and the second of another. */
public final class FamilyNames extends AbstractList<String> implements Names.Vocabulary {
  private final List<String> first;
  private final List<String> second;

  private FamilyNames(List<String> first, List<String> second) {
    this.first = first;
    this.second = second;
  }

  public static FamilyNames load() {
    return new FamilyNames(Vocabularies.load("family-first"), Vocabularies.load("family-second"));
  }

  @Override
  public List<String> choices(String word) {
    return this;
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
