package yemble.core.mask.contact;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.kind.Traits;
import yemble.core.mask.person.FullName;
import yemble.core.mask.person.KnownNames;
import yemble.core.mask.shape.NameForm;

/**
 * The names of a row, and what they became: what the names in an address or a login of the row
 * become, too. Words that are no names of the row are told as ever.
 */
public final class RowNames implements LocalPart.Known {
  private static final int LONGEST_INITIAL = 1;

  private final Map<String, String> given = new HashMap<>();
  private final Map<String, String> family = new HashMap<>();

  /**
   * Adds a value of a column of names.
   *
   * @param part which names it holds
   * @param before the value
   * @param after what became of it
   */
  public void add(Traits.Part part, String before, String after) {
    boolean familyFirst = part == Traits.Part.FAMILY_FIRST;
    List<FullName.Part> were = FullName.parts(before, familyFirst);
    List<FullName.Part> are = FullName.parts(after, familyFirst);
    if (were.size() != are.size()) {
      return;
    }
    StringBuilder[] joined = new StringBuilder[4];
    java.util.Arrays.setAll(joined, i -> new StringBuilder());
    for (int i = 0; i < were.size(); i++) {
      boolean isFamily =
          part == Traits.Part.FAMILY || (part != Traits.Part.GIVEN && were.get(i).family());
      String form = NameForm.of(were.get(i).word());
      String becomes = NameForm.spelled(are.get(i).word());
      put(isFamily ? family : given, form, becomes);
      joined[isFamily ? 2 : 0].append(form);
      joined[isFamily ? 3 : 1].append(becomes);
    }
    put(given, joined[0].toString(), joined[1].toString());
    put(family, joined[2].toString(), joined[3].toString());
  }

  private static void put(Map<String, String> names, String form, String becomes) {
    if (!form.isEmpty() && !becomes.isEmpty()) {
      names.putIfAbsent(form, becomes);
      names.putIfAbsent(form.substring(0, LONGEST_INITIAL), becomes.substring(0, LONGEST_INITIAL));
    }
  }

  @Override
  public LocalPart.Known ofRow() {
    return new LocalPart.Known() {
      @Override
      public boolean isGiven(String form) {
        return form.length() > 1 && given.containsKey(form);
      }

      @Override
      public boolean isFamily(String form) {
        return form.length() > 1 && family.containsKey(form);
      }
    };
  }

  @Override
  public boolean isGiven(String form) {
    return given.containsKey(form) || (!family.containsKey(form) && KnownNames.isGiven(form));
  }

  @Override
  public boolean isFamily(String form) {
    return family.containsKey(form) || (!given.containsKey(form) && KnownNames.isFamily(form));
  }

  @Override
  public String given(String word) {
    return given.get(NameForm.of(word));
  }

  @Override
  public String family(String word) {
    return family.get(NameForm.of(word));
  }
}
