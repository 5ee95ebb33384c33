package yemble.core.mask.text;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.mask.person.FullName;
import yemble.core.mask.person.Names;
import yemble.core.mask.shape.Letters;

/**
 * The values that a free text may mention because they stand in its row or in the rows it belongs
 * to: what they are, and by which mask each is replaced.
 */
public final class Mentions {
  /** Nothing known. */
  public static final Mentions NONE = new Mentions();

  private static final int SHORTEST_NAME = 2;
  private static final int SHORTEST_VALUE = 4;

  private final Map<String, String> words = new HashMap<>();
  private final List<Value> values = new ArrayList<>();
  private final List<Value> originals = new ArrayList<>();
  private final Set<String> kept = new HashSet<>();
  private final Map<String, String> standIns = new HashMap<>();
  private final Map<String, String> pinnedWords = new HashMap<>();

  /** A value of a column, as it stands there. */
  public record Value(String text, String kind) {}

  /** Adds a value of a column. */
  public void add(String kind, String text) {
    String trimmed = text.strip();
    originals.add(new Value(trimmed, kind));
    switch (Kinds.BUILT_IN.part(kind)) {
      case GIVEN, FAMILY -> words(trimmed, kind);
      case FULL -> fullName(trimmed, false);
      case FAMILY_FIRST -> fullName(trimmed, true);
      case NONE -> {
        if (isSaid(kind) && trimmed.length() >= SHORTEST_VALUE) {
          values.add(new Value(trimmed, kind));
        }
      }
    }
  }

  /**
   * A value that has an agreed stand-in in its column: so it has it in texts. Of names of several
   * words each word has that in its place, if the stand-in has as many.
   */
  public void pin(String kind, String text, String standIn) {
    add(kind, text);
    if (!isSaid(kind)) {
      return;
    }
    boolean name = Kinds.BUILT_IN.isName(kind);
    boolean familyFirst = Kinds.BUILT_IN.part(kind) == Traits.Part.FAMILY_FIRST;
    List<FullName.Part> parts = name ? FullName.parts(text, familyFirst) : List.of();
    if (name ? parts.size() > 1 : text.strip().length() >= SHORTEST_VALUE) {
      standIns.putIfAbsent(text.strip(), standIn);
    }
    List<FullName.Part> theirs = name ? FullName.parts(standIn, familyFirst) : List.of();
    if (parts.size() == theirs.size()) {
      for (int i = 0; i < parts.size(); i++) {
        pinnedWords.putIfAbsent(Letters.lower(parts.get(i).word()), theirs.get(i).word());
      }
    }
  }

  /** Whether a text that holds a value of a kind means it. */
  private static boolean isSaid(String kind) {
    return Kinds.BUILT_IN.traits(kind).texts().said();
  }

  /** The agreed stand-in for a word of a name; null if there is none. */
  String pinnedWord(String word) {
    return pinnedWords.isEmpty() ? null : pinnedWords.get(Letters.lower(word));
  }

  /** Values, and names of several words, with their agreed stand-ins; the longest first. */
  List<Map.Entry<String, String>> standIns() {
    return standIns.isEmpty()
        ? List.of()
        : standIns.entrySet().stream()
            .sorted(Comparator.comparingInt(pinned -> -pinned.getKey().length()))
            .toList();
  }

  /** A value that stays in its column: so it stays in texts. */
  public void keep(String kind, String text) {
    kept.add(text.strip());
    for (String word : text.strip().split("[^\\p{L}\\p{M}'’-]+")) {
      if (!word.isEmpty()) {
        kept.add(Letters.lower(word));
      }
    }
  }

  /** Whether a word or value is one that stays. */
  public boolean stays(String word) {
    return kept.contains(word) || kept.contains(Letters.lower(word));
  }

  /** All values that were added, as they were. */
  public List<Value> originals() {
    return originals;
  }

  /** The values and words that stay. */
  Set<String> kept() {
    return kept;
  }

  private void words(String text, String kind) {
    List<FullName.Part> parts = FullName.parts(text, false);
    for (FullName.Part part : parts) {
      add(text, part.word(), parts.size(), kind);
    }
  }

  private void fullName(String text, boolean familyFirst) {
    List<FullName.Part> parts = FullName.parts(text, familyFirst);
    for (FullName.Part part : parts) {
      add(text, part.word(), parts.size(), part.family() ? "family-name" : "given-name");
    }
  }

  private void add(String text, String part, int parts, String kind) {
    String word = Letters.lower(part);
    if (!Names.saysNothing(text)
        && word.length() >= SHORTEST_NAME
        && (parts == 1 || !Names.isAround(word))) {
      words.putIfAbsent(word, kind);
    }
  }

  /** The kind of name that a word is here; null if it is none. */
  String nameKind(String word) {
    return words.get(Letters.lower(word));
  }

  /** The longest first, so that none is replaced within another. */
  List<Value> values() {
    values.sort(Comparator.comparingInt((Value value) -> -value.text().length()));
    return values;
  }

  boolean isEmpty() {
    return words.isEmpty() && values.isEmpty();
  }
}
