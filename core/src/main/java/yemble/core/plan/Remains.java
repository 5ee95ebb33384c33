package yemble.core.plan;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import yemble.core.kind.Kinds;
import yemble.core.mask.Vocabulary;
import yemble.core.mask.text.BytesText;
import yemble.core.wording.Sentence;

/**
 * Estimates what names masked free texts may still hold: words with a capital that have stayed in a
 * sampled text and are a name in a sampled row of some table, its own or another.
 */
final class Remains {
  private static final Set<String> PARTICLES = Vocabulary.particles();
  private static final int SHORTEST = 3;

  private final Kinds kinds;
  private final Set<String> names = new HashSet<>();
  private final Map<String, List<Set<String>>> stayed = new LinkedHashMap<>();

  Remains(Kinds kinds) {
    this.kinds = kinds;
  }

  /** Takes what a sample of a table was and became. */
  void look(TablePlan table, List<Object[]> before, List<Object[]> after) {
    for (int position : table.masked()) {
      TablePlan.ColumnPlan column = table.columns().get(position);
      if (kinds.isName(column.kind())) {
        before.forEach(row -> words(row[position]).forEach(this::name));
      } else if (column.isText() || column.isJson()) {
        List<Set<String>> texts = new ArrayList<>();
        for (int i = 0; i < before.size(); i++) {
          String text = text(before.get(i)[position]);
          if (!text.isEmpty()) {
            Set<String> both = capitals(text);
            both.retainAll(capitals(text(after.get(i)[position])));
            texts.add(both);
          }
        }
        if (!texts.isEmpty()) {
          stayed.put(table.table().name(column.column()).toString(), texts);
        }
      }
    }
  }

  private void name(String word) {
    if (word.length() >= SHORTEST && !PARTICLES.contains(word)) {
      names.add(word);
    }
  }

  private static List<String> words(Object value) {
    return value instanceof String text
        ? List.of(text.toLowerCase(Locale.ROOT).split("[^\\p{L}]+"))
        : List.of();
  }

  /** The words that begin with a capital, in lower case. */
  private static Set<String> capitals(String text) {
    Set<String> words = new HashSet<>();
    for (String word : text.split("[^\\p{L}]+")) {
      if (word.length() >= SHORTEST && Character.isUpperCase(word.charAt(0))) {
        words.add(word.toLowerCase(Locale.ROOT));
      }
    }
    return words;
  }

  /** What a cell says, be it text, JSON, or bytes that hold text; empty if it says nothing. */
  private static String text(Object value) {
    return value instanceof byte[] bytes
        ? BytesText.of(bytes).map(BytesText::text).orElse("")
        : value instanceof String text ? text : "";
  }

  /** For each column of text what was found. */
  List<Sentence> lines() {
    List<Sentence> lines = new ArrayList<>();
    stayed.forEach(
        (column, texts) -> {
          long holding =
              texts.stream().filter(words -> words.stream().anyMatch(names::contains)).count();
          lines.add(
              LimitWording.NAMES_REMAIN.of(holding, texts.size(), names.size()).about(column));
        });
    return lines;
  }
}
