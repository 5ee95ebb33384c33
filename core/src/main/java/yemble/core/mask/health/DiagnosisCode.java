package yemble.core.mask.health;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Prf;
import yemble.core.mask.CodeMask;
import yemble.core.mask.Mask;

/**
 * The mask of codes of illnesses: another category of the same chapter; what refines the category
 * stays. Categories are the blocks of ICD-10 (World Health Organization, 2019 version) and the
 * chapters of ICD-9.
 *
 * <p>Normal form: the category in capitals. A bijection. What has the form of a category and is
 * none becomes another such.
 */
public final class DiagnosisCode implements CodeMask {
  private static final Pattern TENTH =
      Pattern.compile("([A-TV-Za-tv-z])([0-9]{2})(\\.?[0-9A-Za-z]{0,4}[*+†]?)");
  private static final Pattern NINTH = Pattern.compile("([0-9]{3})(\\.[0-9]{1,2})?");

  /** The blocks of each chapter, a line a chapter. */
  private static final String[] TENTH_CHAPTERS = {
    "A00-09 A15-19 A20-28 A30-32 A35-44 A46-46 A48-49 A50-60 A63-71 A74-75 A77-89 A92-99 B00-09 B15-19 B20-27 B30-30 B33-60 B64-83 B85-92 B94-97 B99-99",
    "C00-26 C30-34 C37-41 C43-58 C60-85 C88-88 C90-97 D00-07 D09-48",
    "D50-53 D55-77 D80-84 D86-86 D89-89",
    "E00-07 E10-16 E20-32 E34-35 E40-46 E50-56 E58-61 E63-68 E70-80 E83-90",
    "F00-07 F09-25 F28-34 F38-45 F48-48 F50-55 F59-66 F68-73 F78-84 F88-95 F98-99",
    "G00-14 G20-26 G30-32 G35-37 G40-41 G43-47 G50-64 G70-73 G80-83 G90-99",
    "H00-06 H10-11 H13-13 H15-22 H25-28 H30-36 H40-40 H42-55 H57-59",
    "H60-62 H65-75 H80-83 H90-95",
    "I00-02 I05-13 I15-15 I20-28 I30-52 I60-74 I77-89 I95-95 I97-99",
    "J00-06 J09-18 J20-22 J30-47 J60-70 J80-82 J84-86 J90-99",
    "K00-14 K20-23 K25-31 K35-38 K40-46 K50-52 K55-67 K70-77 K80-83 K85-87 K90-93",
    "L00-05 L08-08 L10-14 L20-30 L40-45 L50-60 L62-75 L80-95 L97-99",
    "M00-03 M05-25 M30-36 M40-43 M45-51 M53-54 M60-63 M65-68 M70-73 M75-77 M79-96 M99-99",
    "N00-08 N10-23 N25-37 N39-51 N60-64 N70-77 N80-99",
    "O00-08 O10-16 O20-26 O28-36 O40-48 O60-75 O80-92 O94-99",
    "P00-05 P07-08 P10-15 P20-29 P35-39 P50-61 P70-72 P74-78 P80-81 P83-83 P90-96",
    "Q00-07 Q10-18 Q20-28 Q30-45 Q50-56 Q60-87 Q89-93 Q95-99",
    "R00-07 R09-23 R25-27 R29-36 R39-64 R68-87 R89-96 R98-99",
    "S00-99 T00-14 T15-36 T37-62 T63-71 T73-75 T78-88 T90-98",
    "V01-06 V09-99 W00-46 W49-60 W64-70 W73-81 W83-94 W99-99 X00-06 X08-54 X57-99 Y00-36 Y40-91 Y95-98",
    "Z00-13 Z20-46 Z48-61 Z63-66 Z70-76 Z80-99"
  };

  private static final int[] NINTH_CHAPTERS = {
    1, 140, 240, 280, 290, 320, 390, 460, 520, 580, 630, 680, 710, 740, 760, 780, 800, 1000
  };

  private final List<List<String>> chapters = new ArrayList<>();
  private final Map<String, int[]> places = new HashMap<>();
  private final List<Permutation> permutations = new ArrayList<>();
  private final Mask others;

  /**
   * @param others the mask of what is no such code
   */
  public DiagnosisCode(Prf prf, Mask others) {
    this.others = others;
    for (String blocks : TENTH_CHAPTERS) {
      List<String> categories = new ArrayList<>();
      for (String block : blocks.split(" ")) {
        int last = Integer.parseInt(block.substring(4));
        for (int i = Integer.parseInt(block.substring(1, 3)); i <= last; i++) {
          categories.add(String.format("%c%02d", block.charAt(0), i));
        }
      }
      add(prf, categories);
    }
    for (char letter = 'A'; letter <= 'Z'; letter++) {
      List<String> rest = new ArrayList<>();
      for (int i = 0; i < 100; i++) {
        String category = String.format("%c%02d", letter, i);
        if (!places.containsKey(category)) {
          rest.add(category);
        }
      }
      add(prf, rest);
    }
    for (int i = 0; i + 1 < NINTH_CHAPTERS.length; i++) {
      List<String> categories = new ArrayList<>();
      for (int number = NINTH_CHAPTERS[i]; number < NINTH_CHAPTERS[i + 1]; number++) {
        categories.add(String.format("%03d", number));
      }
      add(prf, categories);
    }
  }

  private void add(Prf prf, List<String> categories) {
    for (int i = 0; i < categories.size(); i++) {
      places.put(categories.get(i), new int[] {chapters.size(), i});
    }
    permutations.add(
        categories.isEmpty()
            ? null
            : prf.permutation(categories.size(), "chapter " + categories.get(0)));
    chapters.add(categories);
  }

  @Override
  public boolean keepsDifferent() {
    return others.keepsDifferent();
  }

  @Override
  public boolean isOne(String text) {
    return masked(text) != null;
  }

  @Override
  public String apply(String text) {
    String masked = masked(text);
    return masked == null ? others.apply(text) : masked;
  }

  private String masked(String text) {
    Matcher tenth = TENTH.matcher(text.strip());
    Matcher ninth = NINTH.matcher(text.strip());
    boolean isTenth = tenth.matches();
    if (!isTenth && !ninth.matches()) {
      return null;
    }
    String category =
        isTenth
            ? tenth.group(1).toUpperCase(java.util.Locale.ROOT) + tenth.group(2)
            : ninth.group(1);
    int[] place = places.get(category);
    if (place == null) {
      return null;
    }
    String other = chapters.get(place[0]).get((int) permutations.get(place[0]).of(place[1]));
    boolean small = isTenth && tenth.group(1).charAt(0) >= 'a';
    String rest = isTenth ? tenth.group(3) : ninth.group(2) == null ? "" : ninth.group(2);
    return (small ? other.toLowerCase(java.util.Locale.ROOT) : other) + rest;
  }
}
