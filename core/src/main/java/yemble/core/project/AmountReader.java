package yemble.core.project;

import java.math.BigDecimal;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** Reads shares and sizes. */
final class AmountReader {
  private static final Pattern SIZE =
      Pattern.compile("([0-9]{1,12}(?:\\.[0-9]{1,6})?) *([kmgt]i?)?b", Pattern.CASE_INSENSITIVE);

  private AmountReader() {}

  /** What a job says of its size, beside its other words. */
  static Optional<Amount> read(Map<String, YamlValue> job) {
    YamlValue share = job.get("share");
    YamlValue size = job.get("size");
    YamlValue pick = job.get("pick");
    if (share == null && size == null) {
      return Optional.empty();
    }
    if (share != null && size != null) {
      throw size.place()
          .problem(Failure.RULES_CONTRADICT, "size: cannot stand beside share:")
          .because("each of them says by itself how much is picked")
          .remedy("keep one of the two");
    }
    YamlValue amount = share == null ? size : share;
    if (pick != null) {
      String word = share == null ? "size" : "share";
      throw amount
          .place()
          .problem(Failure.RULES_CONTRADICT, word + ": of a job cannot stand beside its pick:")
          .because("it says itself at which tables the subset starts")
          .remedy("keep one of the two; a pick of a table may have a share: of its own");
    }
    return Optional.of(share != null ? new Amount.Share(share(share), share.place()) : size(size));
  }

  private static Amount size(YamlValue value) {
    String text = value.word().strip();
    if (text.endsWith("%")) {
      return new Amount.BytesShare(share(value), value.place());
    }
    Matcher said = SIZE.matcher(text);
    if (!said.matches()) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "expected a size here")
          .remedy("write it as 5 GB, 200 MB, or 2% of the source");
    }
    String unit = said.group(2) == null ? "" : said.group(2).toLowerCase(Locale.ROOT);
    BigDecimal base = BigDecimal.valueOf(unit.endsWith("i") ? 1024 : 1000);
    int power = unit.isEmpty() ? 0 : "kmgt".indexOf(unit.charAt(0)) + 1;
    BigDecimal bytes = new BigDecimal(said.group(1)).multiply(base.pow(power));
    if (bytes.compareTo(BigDecimal.ONE) < 0
        || bytes.compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) > 0) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "no subset has this size")
          .remedy("write it as 5 GB, 200 MB, or 2% of the source");
    }
    return new Amount.Bytes(bytes.longValue(), value.place());
  }

  /** A share above 0 and at most 1. */
  static BigDecimal share(YamlValue value) {
    String text = value.word();
    boolean percent = text.endsWith("%");
    String digits = (percent ? text.substring(0, text.length() - 1) : text).strip();
    if (!digits.matches("[0-9]{1,3}(\\.[0-9]{1,12})?")) {
      throw value
          .place()
          .problem(Failure.VALUE_FORM, "expected a share here")
          .remedy("write it as 3% or 0.03");
    }
    BigDecimal share = new BigDecimal(digits);
    if (percent) {
      share = share.movePointLeft(2);
    }
    if (share.signum() == 0 || share.compareTo(BigDecimal.ONE) > 0) {
      throw value.place().problem(Failure.VALUE_FORM, "a share lies above 0 and at most at 100%");
    }
    return share;
  }
}
