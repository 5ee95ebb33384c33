package yemble.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import yemble.core.kind.Kinds;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.wording.Sentence;

/** Which columns are asked for together, and in which order. */
class QuestionTest {
  private final List<RegisterLine> lines = new java.util.ArrayList<>();
  private final Map<String, Finding> findings = new HashMap<>();

  private void column(String table, String name, String kind, double perhaps, Sentence... reasons) {
    ColumnName column = new ColumnName(TableName.of(table), name);
    lines.add(
        new RegisterLine(
            column.toString(), "TEXT", kind, Decision.UNDECIDED, "", "", "", "", "", 0));
    findings.put(
        column.toString(),
        new Finding(
            column,
            "",
            "TEXT",
            kind,
            0,
            Decision.UNDECIDED,
            false,
            List.of(reasons),
            9,
            0,
            List.of(),
            perhaps > 0 ? List.of(new Finding.Candidate("city", perhaps)) : List.of(),
            Finding.Examples.NONE));
  }

  private List<String> asked() {
    return Question.of(lines, findings, lines, Kinds.BUILT_IN).stream()
        .map(
            question ->
                question.sort()
                    + " "
                    + String.join(" ", question.lines().stream().map(l -> l.column()).toList()))
        .toList();
  }

  @Test
  void whatWouldDoMostHarmIsAskedFirst() {
    column("deck", "tone", "", 0, SurveyWording.UNKNOWN_TEXT.of());
    column("deck", "spot", "", 0.4, SurveyWording.UNKNOWN_TEXT.of());
    column("guest", "town", "city", 0, SurveyWording.UNKNOWN_TEXT.of());
    column("guest", "account", "iban", 0, SurveyWording.UNKNOWN_TEXT.of());
    column("guest", "creed", "religion", 0, SurveyWording.UNKNOWN_TEXT.of());
    assertThat(asked())
        .containsExactly(
            "COLUMN guest.creed",
            "COLUMN guest.account",
            "COLUMN guest.town",
            "COLUMN deck.spot",
            "COLUMN deck.tone");
  }

  @Test
  void columnsOfWhichTheSortAloneIsKnownAreAskedForTogether() {
    column("deck", "tone", "", 0, SurveyWording.SHORT_VALUES.of(3));
    column("mast", "tone", "", 0.29, SurveyWording.SHORT_VALUES.of(4));
    column("mast", "hue", "", 0.3, SurveyWording.SHORT_VALUES.of(4));
    column("guest", "name", "full-name", 0, SurveyWording.NO_VALUES.of());
    column("guest", "mood", "", 0, SurveyWording.SHORT_VALUES.of(4));
    column("guest", "gait", "", 0, SurveyWording.SHORT_VALUES.of(4));
    column("mast", "spare", "", 0, SurveyWording.NO_VALUES.of());
    column("deck", "spare", "", 0, SurveyWording.NO_VALUES.of());
    assertThat(asked())
        .containsExactly(
            "COLUMN guest.name",
            "COLUMN mast.hue",
            "WORDS_OF_PEOPLE guest.mood guest.gait",
            "WORDS deck.tone mast.tone",
            "EMPTY mast.spare deck.spare");
  }

  @Test
  void oneKindAndOneNameOverManyTablesAreOneQuestionEach() {
    column("deck", "Owner", "", 0, SurveyWording.UNKNOWN_TEXT.of());
    column("mast", "owner", "", 0, SurveyWording.UNKNOWN_TEXT.of());
    column("sail", "owner", "username", 0, SurveyWording.UNKNOWN_TEXT.of());
    column("sail", "sewn by", "username", 0, SurveyWording.UNKNOWN_TEXT.of());
    assertThat(asked())
        .containsExactly("KIND sail.owner sail.\"sewn by\"", "NAME deck.Owner mast.owner");
  }

  @Test
  void textsOfThingsAreAskedForTogetherUnlessTheyMentionSomebody() {
    Sentence like = SurveyWording.LIKE.of(List.of("Aaaaa"));
    Sentence mention = SurveyWording.ALL_OF.of(List.of(SurveyWording.MENTION.of(3, "a name")));
    column("deck", "tone", "", 0, like, SurveyWording.UNKNOWN_TEXT.of());
    column("mast", "hue", "", 0, like, SurveyWording.UNKNOWN_TEXT.of());
    column("mast", "log", "", 0, like, SurveyWording.UNKNOWN_TEXT.of(), mention);
    column("mast", "link", "", 0, SurveyWording.PAGES.of(9, 9), mention);
    column("guest", "name", "full-name", 0, SurveyWording.UNKNOWN_TEXT.of());
    column("guest", "mood", "", 0, like, SurveyWording.UNKNOWN_TEXT.of());
    assertThat(asked())
        .containsExactly(
            "COLUMN guest.name",
            "COLUMN mast.log",
            "COLUMN mast.link",
            "COLUMN guest.mood",
            "TEXTS deck.tone mast.hue");
  }

  @Test
  void whatRefersToAColumnIsAskedWithIt() {
    column("deck", "berth", "", 0, SurveyWording.REFERS.of("quay.berth"));
    column("quay", "berth", "", 0, SurveyWording.UNKNOWN_TEXT.of());
    column("rope", "berth", "", 0, SurveyWording.REFERS.of("deck.berth"));
    column("rope", "knot", "", 0, SurveyWording.REFERS.of("sail.knot"));
    assertThat(asked())
        .containsExactly("COLUMN quay.berth deck.berth rope.berth", "COLUMN rope.knot");
  }

  @Test
  void whatRefersToItselfInACircleIsAskedToo() {
    column("deck", "berth", "", 0, SurveyWording.REFERS.of("quay.mooring"));
    column("quay", "mooring", "", 0, SurveyWording.REFERS.of("deck.berth"));
    column("sail", "boom", "", 0, SurveyWording.REFERS.of("sail.boom"));
    assertThat(asked())
        .containsExactly("COLUMN deck.berth", "COLUMN quay.mooring", "COLUMN sail.boom");
  }

  @Test
  void numbersInTextsAreIdentifiersOnlyWhereNothingIsPersonal() {
    Sentence numbers = SurveyWording.WHOLE_NUMBERS.of(9, 9);
    column("deck", "mark", "", 0, numbers);
    column("mast", "sign", "", 0, numbers);
    column("guest", "name", "full-name", 0, SurveyWording.UNKNOWN_TEXT.of());
    column("guest", "mark", "", 0, SurveyWording.LIKE.of(List.of("0000")), numbers);
    assertThat(asked())
        .containsExactly(
            "COLUMN guest.name", "COLUMN guest.mark", "IDENTIFIERS deck.mark mast.sign");
  }
}
