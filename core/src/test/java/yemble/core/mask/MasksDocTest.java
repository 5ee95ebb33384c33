package yemble.core.mask;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import yemble.core.crypto.SecretKey;
import yemble.core.crypto.Trace;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.mask.step.StepSort;
import yemble.core.mask.step.Steps;
import yemble.core.official.NumberForm;
import yemble.core.official.NumberForms;

/**
 * {@code docs/masks.md} says what the masks do, since it is made from them: with {@code
 * -Dyemble.golden=write} it is written, without it is compared.
 */
class MasksDocTest {
  private static final Path DOC = Path.of("../docs/masks.md");
  private static final String BEGIN = "<!-- made by MasksDocTest from here on -->\n";
  private static final String STEPS = "<!-- made by MasksDocTest: all steps -->\n";
  private static final String STEPS_END = "<!-- until here -->\n";
  private final SecretKey key = published();
  private final List<String[]> asked = new ArrayList<>();
  private final Masks masks =
      new Masks(
          new Masks.Terms(key, key, LocalDate.of(2026, 1, 1), Kinds.BUILT_IN, Map.of(), Set.of()),
          scope -> new Asked(scope, asked));

  private static SecretKey published() {
    byte[] bytes = new byte[SecretKey.LENGTH];
    for (int i = 0; i < bytes.length; i++) {
      bytes[i] = (byte) i;
    }
    return SecretKey.parse(Base64.getUrlEncoder().withoutPadding().encodeToString(bytes))
        .orElseThrow();
  }

  private record Asked(String scope, List<String[]> asked) implements Trace {
    @Override
    public void asked(byte[] message, byte[] answer) {
      asked.add(
          new String[] {
            scope, new String(message, StandardCharsets.UTF_8), HexFormat.of().formatHex(answer)
          });
    }

    @Override
    public void moved(String tweak, long size, long from, long to) {
      asked.add(
          new String[] {
            scope, from + " of " + size + ", tweak \"" + tweak + "\"", Long.toString(to)
          });
    }
  }

  private static String code(String text) {
    return text.contains("`") ? "`` " + text + " ``" : "`" + text.replace("|", "\\|") + "`";
  }

  private String kinds() {
    StringBuilder out = new StringBuilder("## Kinds\n");
    for (Category category : Category.values()) {
      out.append("\n### ").append(category).append('\n');
      for (Kind kind : Kinds.BUILT_IN.all()) {
        if (kind.category() == category) {
          kind(out, kind);
        }
      }
    }
    return out.toString();
  }

  private void kind(StringBuilder out, Kind kind) {
    Mask mask = masks.of(kind.name());
    out.append("\n#### ").append(kind.name()).append("\n\n");
    out.append("Holds ").append(kind.holds()).append(". Becomes ").append(kind.becomes());
    out.append(".\nNormal form: ").append(kind.alike()).append(". ");
    out.append(
        !mask.keepsDifferent()
            ? "Different values may fall together."
            : mask.mayMeet()
                ? "Different values stay different, but for a chance that `run` looks at before it loads."
                : "Different values stay different.");
    out.append("\n\n| value | becomes |\n| --- | --- |\n");
    for (String sample : kind.samples()) {
      out.append("| ").append(code(sample)).append(" | ");
      out.append(code(mask.apply(sample))).append(" |\n");
    }
  }

  /** What official numbers are masked as such, in the order of their countries. */
  private static String forms() {
    StringBuilder out =
        new StringBuilder(
            "\n## Official numbers\n\nEach stays right, or wrong for the same reason; of one that says a day of birth or a"
                + " gender these become what the masks of such columns make of them.\n\n");
    out.append("| country | number | for | rule |\n| --- | --- | --- | --- |\n");
    NumberForms.ALL.stream()
        .sorted(Comparator.comparing(NumberForm::country).thenComparing(NumberForm::name))
        .forEach(
            form ->
                out.append("| ")
                    .append(form.country())
                    .append(" | ")
                    .append(form.name())
                    .append(" | ")
                    .append(form.sort().name().toLowerCase(Locale.ROOT))
                    .append(" | ")
                    .append(form.source().replace("|", "\\|"))
                    .append(" |\n"));
    return out.toString();
  }

  private String vectors() {
    StringBuilder out =
        new StringBuilder(
            "\n## Vectors\n\nUnder the key `" + key.reveal() + "` (the bytes 0 to 31).\n\n");
    out.append("| scope | its 16 bytes |\n| --- | --- |\n");
    for (String scope : List.of("given-name", "family-name", "email", "phone", "card-number")) {
      out.append("| `").append(scope).append("` | `");
      out.append(HexFormat.of().formatHex(key.scopeKey(scope))).append("` |\n");
    }
    out.append("\n| kind | value | scope | asked | answer | becomes |\n");
    out.append("| --- | --- | --- | --- | --- | --- |\n");
    String[][] values = {
      {"given-name", "Orla"},
      {"family-name", "Tidewick"},
      {"full-name", "Vennask, Mirel"},
      {"email", "orla.tidewick@site.example"},
      {"phone", "+44 7700 900123"},
      {"card-number", "4000001234567899"},
      {"birth-date", "1974-04-29"},
      {"", "AB-12"}
    };
    for (String[] value : values) {
      asked.clear();
      String masked = masks.of(value[0]).apply(value[1]);
      for (String[] step : asked) {
        out.append("| ").append(value[0].isEmpty() ? "shape" : value[0]);
        out.append(" | ").append(code(value[1])).append(" | ").append(step[0]);
        out.append(" | ").append(code(step[1])).append(" | `").append(step[2]);
        out.append("` | ").append(code(masked)).append(" |\n");
      }
    }
    return out.toString();
  }

  private static String steps() {
    StringBuilder out = new StringBuilder("| word | a value becomes |\n| --- | --- |\n");
    for (StepSort step : Steps.ALL) {
      out.append("| ").append(step.form()).append(" | ").append(step.says()).append(" |\n");
    }
    return out
        + "| the word of a [mask of one's own](own-masks.md), with its options | what that makes |\n"
        + "| `steps: [{ … }, { … }]` | one after another |\n";
  }

  @Test
  void thePageSaysWhatTheMasksDo() throws IOException {
    String page = Files.readString(DOC);
    String head = page.substring(0, page.indexOf(STEPS) + STEPS.length());
    String middle = page.substring(page.indexOf(STEPS_END), page.indexOf(BEGIN) + BEGIN.length());
    String making =
        Steps.makingValues().stream().map(w -> "`" + w + "`").collect(Collectors.joining(", "));
    middle = between(middle, "with masks that need none: ", making, ")");
    String made = head + "\n" + steps() + "\n" + middle + "\n" + kinds() + forms() + vectors();
    if ("write".equals(System.getProperty("yemble.golden"))) {
      Files.writeString(DOC, made);
      return;
    }
    assertThat(page.lines().toList())
        .as("write it anew with mvn -pl core test -Dtest=MasksDocTest -Dyemble.golden=write")
        .isEqualTo(made.lines().toList());
  }

  private static String between(String page, String before, String words, String after) {
    int from = page.indexOf(before) + before.length();
    return page.substring(0, from) + words + page.substring(page.indexOf(after, from));
  }

  @Test
  void theReferenceNamesAllSteps() throws IOException {
    Path reference = Path.of("../docs/reference.md");
    String page = Files.readString(reference);
    String words =
        Steps.ALL.stream().map(step -> "`" + step.word() + "`").collect(Collectors.joining(" "));
    String made = between(page, "RULE: one of ", words, " `steps`, with");
    if ("write".equals(System.getProperty("yemble.golden"))) {
      Files.writeString(reference, made);
      return;
    }
    assertThat(page).as("write it anew with -Dyemble.golden=write").isEqualTo(made);
  }
}
