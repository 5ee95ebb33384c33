package yemble.core.mask;

import java.util.List;
import java.util.Set;
import yemble.core.crypto.Draw;
import yemble.core.crypto.Prf;
import yemble.core.mask.person.Names;
import yemble.core.mask.shape.Letters;
import yemble.core.mask.shape.Memo;
import yemble.core.vocabulary.Vocabularies;

/**
 * The mask that puts another entry of a list in the place of a text, in the case of the original. A
 * word or code of a closed list ({@link ClosedLists}) becomes another one of that. Other codes of
 * up to three letters become codes of the kind with as many, or others of their shape, those of
 * countries other countries'; words for yes and no stay, since one of two says nothing of anybody
 * and nothing else would fit.
 *
 * <p>Normal form: trimmed, in lower case.
 */
final class FromList implements Mask {
  private static final Set<String> TRUTHS =
      Set.of("0", "1", "t", "f", "y", "n", "yes", "no", "true", "false");
  private static final int LONGEST_CODE = 3;

  private final Prf prf;
  private final List<String> list;
  private final ClosedLists closed;
  private final Mask codes;
  private final Memo memo;

  /**
   * @param list the name of a list that ships with the tool
   * @param codes masks what is too short for a word
   */
  FromList(Prf prf, String list, Mask codes) {
    this.prf = prf;
    this.memo = new Memo(prf, 10);
    this.list = Vocabularies.lines(list);
    this.closed = new ClosedLists(prf, list);
    this.codes = codes;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    String normal = Letters.lower(text.strip());
    if (codes instanceof CodeMask known && known.isOne(text)) {
      return codes.apply(text); // Norway is no "no", and Namibia is not "n/a".
    }
    if (TRUTHS.contains(normal) || Names.saysNothing(text)) {
      return text;
    }
    String other = closed.masked(text.strip());
    if (other == null && normal.length() <= LONGEST_CODE) {
      other = closed.another(text.strip(), prf.draw(normal));
    }
    if (other != null) {
      return other;
    }
    if (normal.length() <= LONGEST_CODE || normal.chars().noneMatch(Character::isLetter)) {
      return codes.apply(text);
    }
    String chosen = memo.get(normal, this::chosen);
    return ClosedLists.styled(text.strip(), chosen);
  }

  private String chosen(String normal) {
    Draw draw = prf.draw(normal);
    String chosen = list.get(draw.below(list.size()));
    return Letters.lower(chosen).equals(normal) ? list.get(draw.below(list.size())) : chosen;
  }
}
