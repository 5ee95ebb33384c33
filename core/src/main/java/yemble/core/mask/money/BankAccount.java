package yemble.core.mask.money;

import java.util.List;
import java.util.stream.IntStream;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Shape;

/**
 * The mask of a bank account number as its country writes it. One that is right by the check digits
 * of a country becomes another one that is right by the same rules and no others; any other one
 * loses all but its shape, and stays wrong.
 *
 * <p>Normal form: without spaces and signs, in capitals, of numbers that are right; else the text.
 * A bijection on the numbers of one form.
 */
public final class BankAccount implements Mask {
  private static final int MOST_STEPS = 10_000;
  private static final String POLISH = "PL";
  private static final int POLISH_LENGTH = 26;

  private final Shape account;
  private final Mask ibans;

  /**
   * @param ibans the mask of what is an IBAN, or one without its country's letters
   */
  public BankAccount(Shape account, Mask ibans) {
    this.account = account;
    this.ibans = ibans;
  }

  @Override
  public boolean keepsDifferent() {
    return true;
  }

  @Override
  public String apply(String text) {
    String number = normal(text);
    if (number.length() == POLISH_LENGTH && Iban.isValid(POLISH + number)) {
      return inFormat(text, ibans.apply(POLISH + number).substring(POLISH.length()));
    }
    List<Integer> right = right(number);
    if (right.isEmpty()) {
      String masked = account.apply(text);
      for (int step = 0; step < MOST_STEPS && !right(normal(masked)).isEmpty(); step++) {
        masked = account.apply(masked);
      }
      return masked;
    }
    NationalAccount form = NationalAccount.ALL.get(right.get(0));
    String masked = number;
    for (int step = 0; step < MOST_STEPS; step++) {
      masked = permuted(account, form, masked);
      if (right(masked).equals(right)) {
        break;
      }
    }
    return inFormat(text, masked);
  }

  /** Which forms a number is right in. */
  private static List<Integer> right(String number) {
    return IntStream.range(0, NationalAccount.ALL.size())
        .filter(i -> NationalAccount.ALL.get(i).isRight(number))
        .boxed()
        .toList();
  }

  /** The next right number after a right one, in an order that the key gives. */
  static String permuted(Shape account, NationalAccount form, String number) {
    String rest = number;
    for (int i = form.checks().size() - 1; i >= 0; i--) {
      int at = form.checks().get(i);
      rest = rest.substring(0, at) + rest.substring(at + 1);
    }
    for (int step = 0; step < MOST_STEPS; step++) {
      rest = account.permutedEverywhere(rest);
      StringBuilder whole = new StringBuilder(rest);
      for (int at : form.checks()) {
        whole.insert(at, number.charAt(at));
      }
      String made = form.right().apply(whole.toString());
      if (made != null) {
        return made;
      }
    }
    return number;
  }

  private static String normal(String text) {
    StringBuilder normal = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (!isSign(c)) {
        normal.append(c >= 'a' && c <= 'z' ? (char) (c - 32) : c);
      }
    }
    return normal.toString();
  }

  private static boolean isSign(char c) {
    return c == ' ' || c == '-' || c == '.' || c == '/';
  }

  private static String inFormat(String text, String number) {
    StringBuilder out = new StringBuilder(text.length());
    int next = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      char replaced = isSign(c) ? c : number.charAt(next++);
      out.append(c >= 'a' && c <= 'z' ? Character.toLowerCase(replaced) : replaced);
    }
    return out.toString();
  }
}
