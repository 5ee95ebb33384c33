package yemble.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import yemble.core.problem.Failure;

/** {@code docs/errors.md} has every failure once, with its exit code, an example and a remedy. */
class FailureDocTest {
  @Test
  void everyFailureIsExplainedInItsPlace() throws Exception {
    String[] sections = Files.readString(Path.of("../docs/errors.md")).split("\n### ");
    List<String> codes = new ArrayList<>();
    for (int i = 1; i < sections.length; i++) {
      String code = sections[i].lines().findFirst().orElseThrow();
      codes.add(code);
      Failure failure = Failure.valueOf(code.toUpperCase().replace('-', '_'));
      assertThat(sections[i])
          .contains("Exit code " + failure.type().exitCode() + ".", "\nyemble: ", "\n  do:    ")
          .contains("\n  code:  " + code + "\n");
      assertThat(failure.remedy()).isNotBlank();
    }
    assertThat(codes)
        .containsExactlyElementsOf(Stream.of(Failure.values()).map(Failure::code).toList());
  }
}
