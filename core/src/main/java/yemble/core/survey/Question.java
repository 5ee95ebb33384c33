package yemble.core.survey;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.kind.TypeSort;
import yemble.core.name.DottedName;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;

/**
 * What a person is asked about the register: one column, columns that look like one kind, one name
 * that many tables have, or columns of which no more is known than what sort of values they hold.
 * What would do most harm if it were kept comes first.
 *
 * @param lines one or more, in the order of the register
 */
public record Question(Sort sort, List<RegisterLine> lines) {
  /** What the columns of a question have in common; the later, the less likely is harm. */
  public enum Sort {
    /** It is one column, perhaps with others that refer to it. */
    COLUMN,
    /** They look like one kind, and survey is not sure. */
    KIND,
    /** They are called the same, and nothing is known of them. */
    NAME,
    /** They hold a few fixed words, in tables that hold something personal. */
    WORDS_OF_PEOPLE,
    /** They are numbers or days, in tables about people. */
    NUMBERS,
    /** They hold UUIDs, hexadecimal digits or, where nothing personal was found, codes. */
    IDENTIFIERS,
    /** They hold short texts, in tables in which nothing personal was found. */
    TEXTS,
    /** They hold addresses of pages or paths of files. */
    PAGES,
    /** They hold a few fixed words, in tables in which nothing personal was found. */
    WORDS,
    /** They hold no values. */
    EMPTY
  }

  /** From so likely a kind on a column is asked for by itself. */
  private static final double CONSIDERED = 0.3;

  public Question {
    lines = List.copyOf(lines);
  }

  /**
   * The questions for some lines.
   *
   * @param findings what the last survey said, by the names of columns; columns that it says
   *     nothing of are asked for by themselves
   * @param all the whole register, which tells which tables hold something personal
   */
  public static List<Question> of(
      List<RegisterLine> lines,
      Map<String, Finding> findings,
      List<RegisterLine> all,
      Kinds kinds) {
    Set<String> personal = new HashSet<>();
    for (RegisterLine line : all) {
      if (!line.kind().isEmpty() && line.decision() != Decision.KEEP) {
        personal.add(line.table());
      }
    }
    Map<Sort, List<RegisterLine>> groups = new EnumMap<>(Sort.class);
    Map<String, List<RegisterLine>> alone = new LinkedHashMap<>();
    Map<String, List<RegisterLine>> following = new HashMap<>();
    Set<String> asked = new HashSet<>();
    lines.forEach(line -> asked.add(line.column()));
    for (RegisterLine line : lines) {
      String leader = refersTo(findings.get(line.column()));
      if (asked.contains(leader) && leads(leader, findings)) {
        following.computeIfAbsent(leader, l -> new ArrayList<>()).add(line);
        continue;
      }
      Sort sort = sort(line, findings.get(line.column()), personal.contains(line.table()));
      if (sort == Sort.COLUMN) {
        String alike = line.kind().isEmpty() ? name(line) : line.kind();
        alone.computeIfAbsent(alike, n -> new ArrayList<>()).add(line);
      } else {
        groups.computeIfAbsent(sort, s -> new ArrayList<>()).add(line);
      }
    }
    List<Question> questions = new ArrayList<>();
    alone.values().forEach(same -> questions.add(new Question(same(same), same)));
    questions.sort(Comparator.comparingInt(question -> harm(question, findings, kinds)));
    groups.forEach(
        (sort, same) -> questions.add(new Question(same.size() == 1 ? Sort.COLUMN : sort, same)));
    return questions.stream().map(question -> question.with(following)).toList();
  }

  /**
   * The same with the columns that refer to one of it behind that one: what it becomes, they do.
   */
  private Question with(Map<String, List<RegisterLine>> following) {
    List<RegisterLine> all = new ArrayList<>();
    lines.forEach(line -> add(line, following, all));
    return new Question(sort, all);
  }

  private static void add(
      RegisterLine line, Map<String, List<RegisterLine>> following, List<RegisterLine> to) {
    to.add(line);
    following.getOrDefault(line.column(), List.of()).forEach(next -> add(next, following, to));
  }

  /** Whether a column is what it is by others that end with one of its own: in a circle none is. */
  private static boolean leads(String column, Map<String, Finding> findings) {
    Set<String> seen = new HashSet<>();
    String at = column;
    while (!at.isEmpty() && seen.add(at)) {
      at = refersTo(findings.get(at));
    }
    return at.isEmpty();
  }

  /** The column that another one is what it is by; an empty string if it is so by itself. */
  private static String refersTo(Finding finding) {
    return finding == null
        ? ""
        : finding.reasons().stream()
            .filter(reason -> reason.wording() == SurveyWording.REFERS)
            .map(reason -> reason.values().get(0).toString())
            .findFirst()
            .orElse("");
  }

  private static Sort same(List<RegisterLine> lines) {
    return lines.size() == 1 ? Sort.COLUMN : lines.get(0).kind().isEmpty() ? Sort.NAME : Sort.KIND;
  }

  /** What columns are called in their tables, and what sort of values they hold. */
  private static String name(RegisterLine line) {
    String column =
        DottedName.parse(line.bareColumn())
            .map(name -> name.parts().get(name.parts().size() - 1))
            .orElse(line.bareColumn());
    return String.join(
        "\n", column.toLowerCase(Locale.ROOT), line.path(), TypeSort.of(line.type()).toString());
  }

  private static Sort sort(RegisterLine line, Finding finding, boolean personal) {
    if (finding == null
        || !line.kind().isEmpty()
        || perhaps(finding) >= CONSIDERED
        || mentions(finding)) {
      return Sort.COLUMN;
    }
    if (says(finding, SurveyWording.NO_VALUES)) {
      return Sort.EMPTY;
    }
    if (says(finding, SurveyWording.SHORT_VALUES) || says(finding, SurveyWording.SHORT_LIKE)) {
      return personal ? Sort.WORDS_OF_PEOPLE : Sort.WORDS;
    }
    if (says(finding, SurveyWording.ASKED)) {
      return Sort.NUMBERS;
    }
    boolean seen = says(finding, SurveyWording.LIKE);
    if (seen && !personal && says(finding, SurveyWording.UNKNOWN_TEXT)) {
      return Sort.TEXTS;
    }
    if (says(finding, SurveyWording.PAGES) || says(finding, SurveyWording.PATHS)) {
      return Sort.PAGES;
    }
    boolean made = says(finding, SurveyWording.UUIDS) || says(finding, SurveyWording.HEXADECIMAL);
    boolean codes =
        says(finding, SurveyWording.CODES) || says(finding, SurveyWording.WHOLE_NUMBERS);
    return made || codes && !personal ? Sort.IDENTIFIERS : Sort.COLUMN;
  }

  private static boolean says(Finding finding, SurveyWording wording) {
    return finding.reasons().stream().anyMatch(reason -> reason.wording() == wording);
  }

  /** Whether some of its values mention somebody, which no list of columns shows well enough. */
  private static boolean mentions(Finding finding) {
    return says(finding, SurveyWording.ALL_OF);
  }

  private static double perhaps(Finding finding) {
    return finding.others().stream().mapToDouble(Finding.Candidate::confidence).max().orElse(0);
  }

  /** The less, the more harm it would do if it were kept although it is personal. */
  private static int harm(Question question, Map<String, Finding> findings, Kinds kinds) {
    RegisterLine line = question.lines().get(0);
    Category category = kinds.of(line.kind()).map(Kind::category).orElse(null);
    if (category != null) {
      return switch (category) {
        case SPECIAL, HEALTH -> 0;
        case CREDENTIAL, FINANCE, OFFICIAL_ID -> 1;
        default -> 2;
      };
    }
    Finding finding = findings.get(line.column());
    return finding != null && perhaps(finding) >= CONSIDERED ? 3 : 4;
  }
}
