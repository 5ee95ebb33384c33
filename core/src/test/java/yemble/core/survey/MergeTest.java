package yemble.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import yemble.core.kind.Kinds;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;

class MergeTest {
  private static Finding finding(String column, String kind, double confidence, boolean sure) {
    return new Finding(
        new ColumnName(TableName.of("t"), column),
        "",
        "TEXT",
        kind,
        confidence,
        kind.isEmpty() ? Decision.KEEP : Decision.MASK,
        sure,
        List.of(SurveyWording.CALLED.of("evidence")),
        9,
        9,
        List.of(),
        List.of(),
        Finding.Examples.NONE);
  }

  private static RegisterLine line(
      String column, String type, String kind, Decision decision, String by) {
    return new RegisterLine("t." + column, type, kind, decision, "", "", by, "2026-01-01", "", 2);
  }

  @Test
  void whatAPersonDecidedStays() {
    Register before =
        new Register(
            List.of(
                line("a", "TEXT", "", Decision.KEEP, "ann"),
                line("b", "TEXT", "email", Decision.MASK, RegisterLine.SURVEY),
                line("d", "CHAR(2)", "", Decision.KEEP, "ann"),
                line("gone", "TEXT", "", Decision.KEEP, "ann")));
    Merge merge =
        Merge.of(
            before,
            List.of(
                finding("a", "email", 0.95, true),
                finding("b", "phone", 0.9, true),
                finding("c", "", 0, false),
                finding("d", "", 0.9, true)),
            List.of(new Definitions.Found("definition of view v", "email", 1)),
            "2026-02-02",
            false,
            Kinds.BUILT_IN);
    assertThat(merge.register().line("t.a").decision()).isEqualTo(Decision.KEEP);
    assertThat(merge.register().line("t.a").by()).isEqualTo("ann");
    assertThat(merge.contradicted()).containsExactly("t.a");
    assertThat(merge.register().line("t.b").kind()).isEqualTo("phone");
    assertThat(merge.added()).containsExactly("t.c", "definition of view v");
    assertThat(merge.register().line("t.c").decision()).isEqualTo(Decision.UNDECIDED);
    assertThat(merge.removed()).containsExactly("t.gone");
    assertThat(merge.retyped()).containsExactly("t.d");
    assertThat(merge.register().line("t.d").type()).isEqualTo("CHAR(2)");
  }

  @Test
  void wherePeopleReviewNothingIsDecidedForThem() {
    Merge merge =
        Merge.of(
            null,
            List.of(finding("b", "phone", 0.9, true)),
            List.of(),
            "2026-02-02",
            true,
            Kinds.BUILT_IN);
    RegisterLine line = merge.register().line("t.b");
    assertThat(line.decision()).isEqualTo(Decision.UNDECIDED);
    assertThat(line.kind()).isEqualTo("phone");
    assertThat(line.by()).isEmpty();
  }

  @Test
  void aKindOfWhichTheDataShowsNothingIsContradicted() {
    Register before = new Register(List.of(line("a", "TEXT", "email", Decision.MASK, "ann")));
    Finding nothing = finding("a", "", 0, false);
    Finding much =
        new Finding(
            nothing.column(),
            "",
            "TEXT",
            "",
            0,
            Decision.UNDECIDED,
            false,
            List.of(SurveyWording.UNKNOWN_TEXT.of()),
            100,
            0,
            List.of(),
            List.of(new Finding.Candidate("note", 0.3)),
            Finding.Examples.NONE);
    assertThat(
            Merge.of(before, List.of(much), List.of(), "2026-02-02", false, Kinds.BUILT_IN)
                .contradicted())
        .containsExactly("t.a");
    assertThat(
            Merge.of(before, List.of(nothing), List.of(), "2026-02-02", false, Kinds.BUILT_IN)
                .contradicted())
        .isEmpty();
  }
}
