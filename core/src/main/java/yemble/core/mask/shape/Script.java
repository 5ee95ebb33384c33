package yemble.core.mask.shape;

import yemble.core.crypto.Draw;

/**
 * The script that a name is written in. Names of the vocabularies are Latin; in a text of another
 * script they are written in that one, and looked up by how it would be written in Latin, so that
 * {@code Анна} and the {@code anna} of an e-mail address become one name.
 *
 * <p>Transliteration is letter by letter, after the practice of passports for Cyrillic (ICAO Doc
 * 9303) and of ISO 843 for Greek, without what depends on more than two letters.
 */
public enum Script {
  /** Latin, and whatever has no letters. */
  LATIN,
  CYRILLIC,
  GREEK,
  /** All others, whose names are not looked up by how they would be written in Latin. */
  OTHER;

  /** The scripts among the others that have names of their own in the vocabularies. */
  public enum Native {
    /** Chinese characters, in Japanese too. */
    HAN,
    HIRAGANA,
    KATAKANA,
    HANGUL,
    ARABIC,
    HEBREW,
    DEVANAGARI,
    THAI,
    NONE;

    /** That of all letters of a word. */
    public static Native of(String word) {
      Native script = null;
      for (int i = 0; i < word.length(); i++) {
        Native one = of(word.charAt(i));
        if (script != null && one != script) {
          return NONE;
        }
        script = one;
      }
      return script == null ? NONE : script;
    }

    private static Native of(char c) {
      if (c >= 0x4E00 && c <= 0x9FFF || c == '々') {
        return HAN;
      }
      if (c >= 0x3041 && c <= 0x3096) {
        return HIRAGANA;
      }
      if (c >= 0x30A1 && c <= 0x30FC) {
        return KATAKANA;
      }
      if (c >= 0xAC00 && c <= 0xD7A3) {
        return HANGUL;
      }
      if (c >= 0x900 && c <= 0x97F) {
        return DEVANAGARI;
      }
      if (c >= 0xE01 && c <= 0xE4E) {
        return THAI;
      }
      if (c >= 0x5D0 && c <= 0x5EA) {
        return HEBREW;
      }
      return c >= 0x620 && c <= 0x6D3 ? ARABIC : NONE;
    }
  }

  private static final String[] CYRILLIC_LETTERS = {
    "а a", "б b", "в v", "г g", "д d", "е e", "ё e", "ж zh", "з z", "и i", "й i", "к k", "л l",
    "м m", "н n", "о o", "п p", "р r", "с s", "т t", "у u", "ф f", "х kh", "ц ts", "ч ch", "ш sh",
    "щ shch", "ъ ", "ы y", "ь ", "э e", "ю iu", "я ia", "і i", "ї i", "є ie", "ґ g", "ў u", "ј j",
    "љ lj", "њ nj", "ћ c", "ђ dj", "џ dz"
  };
  private static final String[] GREEK_LETTERS = {
    "α a", "β v", "γ g", "δ d", "ε e", "ζ z", "η i", "θ th", "ι i", "κ k", "λ l", "μ m", "ν n",
    "ξ x", "ο o", "π p", "ρ r", "σ s", "ς s", "τ t", "υ y", "φ f", "χ ch", "ψ ps", "ω o", "ά a",
    "έ e", "ή i", "ί i", "ό o", "ύ y", "ώ o", "ϊ i", "ϋ y"
  };

  /** Longer ones first, as far as they begin alike. */
  private static final String[] TO_CYRILLIC = {
    "shch щ", "sh ш", "ch ч", "zh ж", "kh х", "th т", "ph ф", "ts ц", "ya я", "yu ю", "ck к", "a а",
    "b б", "c к", "d д", "e е", "f ф", "g г", "h х", "i и", "j й", "k к", "l л", "m м", "n н",
    "o о", "p п", "q к", "r р", "s с", "t т", "u у", "v в", "w в", "x кс", "y и", "z з"
  };

  private static final String[] TO_GREEK = {
    "th θ", "ph φ", "ch χ", "ps ψ", "ou ου", "ck κ", "sh σ", "a α", "b μπ", "c κ", "d δ", "e ε",
    "f φ", "g γ", "h χ", "i ι", "j τζ", "k κ", "l λ", "m μ", "n ν", "o ο", "p π", "q κ", "r ρ",
    "s σ", "t τ", "u ου", "v β", "w ου", "x ξ", "y υ", "z ζ"
  };

  /** The script of the first letter of a word. */
  public static Script of(String word) {
    for (int i = 0; i < word.length(); i++) {
      char c = word.charAt(i);
      if (Letters.isLetter(c)) {
        if (c < 0x250 || (c >= 0x1E00 && c < 0x1F00)) {
          return LATIN;
        }
        return c >= 0x370 && c < 0x400 ? GREEK : c >= 0x400 && c < 0x530 ? CYRILLIC : OTHER;
      }
    }
    return LATIN;
  }

  /** A word in lower case of this script as it would be written in Latin. */
  public String latin(String word) {
    return switch (this) {
      case CYRILLIC -> replaced(word, CYRILLIC_LETTERS);
      case GREEK -> replaced(word, GREEK_LETTERS);
      default -> word;
    };
  }

  /**
   * A name of the vocabulary, with a capital, in this script.
   *
   * @param original the name that it stands for
   * @param draw what letters of other scripts are drawn from
   */
  public String written(String name, String original, Draw draw) {
    return switch (this) {
      case LATIN -> name;
      case CYRILLIC -> capital(replaced(Letters.lower(name), TO_CYRILLIC));
      case GREEK -> capital(lastSigma(replaced(Letters.lower(name), TO_GREEK)));
      case OTHER -> drawn(original, draw);
    };
  }

  private static String replaced(String word, String[] letters) {
    StringBuilder out = new StringBuilder(word.length() + 4);
    for (int at = 0; at < word.length(); ) {
      int taken = 0;
      for (String entry : letters) {
        int length = entry.indexOf(' ');
        if (word.startsWith(entry.substring(0, length), at)) {
          out.append(entry, length + 1, entry.length());
          taken = length;
          break;
        }
      }
      if (taken == 0) {
        out.append(word.charAt(at));
      }
      at += Math.max(taken, 1);
    }
    return out.toString();
  }

  private static String capital(String word) {
    return word.isEmpty() ? word : Letters.upper(word.charAt(0)) + word.substring(1);
  }

  private static String lastSigma(String word) {
    return word.endsWith("σ") ? word.substring(0, word.length() - 1) + "ς" : word;
  }

  private static String drawn(String original, Draw draw) {
    char[] out = original.toCharArray();
    for (int i = 0; i < out.length; i++) {
      Alphabet alphabet = Alphabet.of(out[i]);
      if (!alphabet.isFixed()) {
        out[i] = alphabet.letter(out[i], draw.below(alphabet.size()));
      }
    }
    return new String(out);
  }
}
