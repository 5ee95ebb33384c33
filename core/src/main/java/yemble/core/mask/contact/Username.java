package yemble.core.mask.contact;

import yemble.core.crypto.Draw;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;

/**
 * The mask of a login name: its words become other names, and a tag of six characters keeps logins
 * apart. One that is an e-mail address becomes what that address becomes.
 *
 * <p>Normal form: trimmed, in lower case; one in capitals stays so. The tag holds 30 bits, a family
 * name about 14 more, a digit 3: among a million logins of one word each two fall together with a
 * chance near 0.02.
 */
public final class Username implements FollowsNames {
  private static final String TAG = "abcdefghjkmnpqrstuvwxyz234567890";
  private static final int TAG_LENGTH = 6;
  private final Prf prf;
  private final Email names;
  private final Mask emails;
  private final int longest;

  /**
   * @param names replaces the words of a login
   * @param emails the mask of a login that is an e-mail address
   * @param longest how many characters a login has at most; 0 for any number
   */
  public Username(Prf prf, Email names, Mask emails, int longest) {
    this.prf = prf;
    this.names = names;
    this.emails = emails;
    this.longest = longest == 0 ? Integer.MAX_VALUE : longest;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public boolean mayMeet() {
    return true;
  }

  @Override
  public void about(RowNames row) {
    names.about(row);
    if (emails instanceof FollowsNames follow) {
      follow.about(row);
    }
  }

  @Override
  public String apply(String text) {
    if (text.indexOf('@') > 0) {
      return emails.apply(text);
    }
    Draw draw = prf.draw(Letters.lower(text.strip()));
    String tag = draw.text32(Math.min(TAG_LENGTH, longest), TAG);
    String masked = Email.cut(names.names(text.strip(), draw), longest - tag.length() - 1);
    masked += (masked.isEmpty() ? "" : "_") + tag;
    return Letters.inCaseOf(text, masked);
  }
}
