package yemble.core.survey;

import java.util.EnumMap;
import java.util.EnumSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.recognition.Value;

/**
 * What values are that are no words: told by their form alone, which says nothing of whose they
 * are.
 */
final class Forms {
  /** Nearly all values have the form. */
  private static final double MOSTLY = 0.95;

  private static final int LONGEST = 400;
  private static final int ENOUGH = 50;
  private static final int MOST_SPACES = 3;

  /** A form, with what is said of values that have it. */
  enum Form {
    UUID(SurveyWording.UUIDS, "(?i)\\{?[0-9a-f]{8}-?(?:[0-9a-f]{4}-?){3}[0-9a-f]{12}}?"),
    HEXADECIMAL(SurveyWording.HEXADECIMAL, "(?i)(?=.*[a-f])(?=.*[0-9])[0-9a-f]{8,}"),
    NUMBER(SurveyWording.WHOLE_NUMBERS, "[0-9]{1,18}"),
    CODE(SurveyWording.CODES, "(?=.*[0-9])[A-Z0-9][A-Z0-9 ._:/+-]{0,23}"),
    PAGE(SurveyWording.PAGES, "(?i)(?:https?|ftps?|wss?)://\\S+"),
    PATH(SurveyWording.PATHS, "(?:[\\w.~%-]*[/\\\\])+[\\w.~%-]*|[\\w-]+\\.[a-z]{2,4}");

    /** Those of which it helps to see what they look like. */
    static final Set<Form> VARIED = EnumSet.of(NUMBER, CODE);

    private final SurveyWording wording;
    private final Pattern pattern;

    Form(SurveyWording wording, String pattern) {
      this.wording = wording;
      this.pattern = Pattern.compile(pattern);
    }

    SurveyWording wording() {
      return wording;
    }
  }

  private long seen;
  private long told;
  private final Map<Form, Long> counts = new EnumMap<>(Form.class);

  /** Takes a value that comes so many times. */
  void add(Value value, long times) {
    String text = value.text();
    if (seen > ENOUGH && told * 2 < seen) {
      return; // No form will hold nearly all of them.
    }
    seen += times;
    if (text.length() > LONGEST || value.spaces() > MOST_SPACES || isWord(value)) {
      return;
    }
    for (Form form : Form.values()) {
      if (form.pattern.matcher(text).matches()) {
        counts.merge(form, times, Long::sum);
        told += times;
        return;
      }
    }
  }

  /** Whether it is letters alone, as most values that have none of the forms are. */
  private static boolean isWord(Value value) {
    return value.digits() == 0 && value.letters() + value.spaces() == value.text().length();
  }

  /** The form that nearly all values have; empty if there is none. */
  Optional<Form> usual(long values) {
    return counts.entrySet().stream()
        .filter(form -> form.getValue() >= MOSTLY * values)
        .map(Map.Entry::getKey)
        .findFirst();
  }

  /** How many values have a form. */
  long of(Form form) {
    return counts.getOrDefault(form, 0L);
  }
}
