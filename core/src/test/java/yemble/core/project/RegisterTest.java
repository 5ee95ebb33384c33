package yemble.core.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.problem.Problem;
import yemble.core.project.RegisterLine.Decision;

class RegisterTest {
  private static final String HEAD = "column,type,kind,decision,confidence,evidence,by,on,reason\n";

  @Test
  void whatIsWrittenIsReadAgain() {
    RegisterLine line =
        new RegisterLine(
            "\"Odd, name\".x",
            "VARCHAR(10)",
            "email",
            Decision.MASK,
            "97 %",
            "name says \"mail\"",
            "ann",
            "2026-01-02",
            "a, b\nc",
            0);
    Register register =
        new Register(List.of(line, RegisterLine.undecided("passenger.id", "INTEGER")));
    Register again = Register.parse(register.toText(), "register.csv");
    assertThat(again.toText()).isEqualTo(register.toText());
    assertThat(again.line("\"Odd, name\".x").reason()).isEqualTo("a, b\nc");
    assertThat(register.toText()).startsWith(HEAD);
    assertThat(register.toText()).contains("passenger.id,INTEGER,,undecided,,,,,\n");
  }

  @Test
  void aSpreadsheetMayHaveSavedIt() {
    String saved =
        ("\uFEFF" + HEAD + "a.b,TEXT,email,MASK,,,,,\n").replace(',', ';').replace("\n", "\r\n");
    Register register = Register.parse(saved, "register.csv");
    assertThat(register.line("a.b").decision()).isEqualTo(Decision.MASK);
    assertThat(register.line("a.b").line()).isEqualTo(2);
    assertThat(Register.parse("column,decision\na.b,keep\n\n", "r").line("a.b").decision())
        .isEqualTo(Decision.KEEP);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "a.b,TEXT,,mask,,,,,\\na.b,TEXT,,keep,,,,,\\n | a second time | :3:1",
        "a.b,TEXT,,msak,,,,,\\n | unknown decision \"msak\" | :2:1",
        "a.b,TEXT,,keep,,,,,x,y,z\\n | 11 fields, not 9 | :2:1",
      })
  void aWrongLineIsNamed(String lines, String what, String where) {
    Problem problem =
        catchThrowableOfType(
            Problem.class, () -> Register.parse(HEAD + lines.replace("\\n", "\n"), "register.csv"));
    assertThat(problem.what()).contains(what);
    assertThat(problem.where()).isEqualTo("register.csv" + where);
    assertThat(problem.exitCode()).isEqualTo(2);
  }

  @Test
  void aWrongHeadingIsNamed() {
    Problem problem =
        catchThrowableOfType(Problem.class, () -> Register.parse("colum,decision\n", "r.csv"));
    assertThat(problem.remedy()).contains("\"column\"");
  }
}
