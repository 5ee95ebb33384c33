package yemble.core.pin;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Problem;
import yemble.core.project.Job;
import yemble.core.project.PinList;
import yemble.core.yaml.Place;

/** Lists of stand-ins: their keys, their files, and whom a row is about. */
class PinFileTest {
  private static final SecretKey KEY =
      SecretKey.parse("b3JsaXNheS1mZXJyaWVzLWRlbW8ta2V5LTAwMDAwMDE").orElseThrow();
  private static final Place PLACE = new Place("yemble.yaml", 1, 1);
  private static final List<String> FIELDS = List.of("name", "login");
  private static final String ONE = "k" + "0".repeat(31) + "1";
  private static final String TWO = "k" + "0".repeat(31) + "2";

  @TempDir Path folder;

  private static PinList list() {
    Job.Named by = new Job.Named("crew.national_id", PLACE);
    return new PinList(
        "staff",
        "pins/staff.csv",
        by,
        List.of(new PinList.Give(by, "name", false), new PinList.Give(by, "login", false)),
        List.of(),
        false,
        Map.of(),
        "",
        PLACE);
  }

  private static PinFile parse(String text) {
    return PinFile.parse(text, "staff.csv", FIELDS);
  }

  private static PinKey key(String text) {
    return PinKey.parse(text).orElseThrow();
  }

  /** By twenty lines of Python, with its own HKDF and OpenSSL's CMAC. */
  @ParameterizedTest
  @CsvSource({
    "staff, OR10000000, k72633517fec28907b4f71a4e14cdc9c3",
    "staff, ' OR10000000 ', k72633517fec28907b4f71a4e14cdc9c3",
    "staff, Zo\u00eb Skerra, k44d613cd5a2ab02700c0e94297e57b35",
    "staff, Zoe\u0308 Skerra, k44d613cd5a2ab02700c0e94297e57b35",
    "members, OR10000000, kfc3ab12efcc2487280b4726a3012f4ea",
  })
  void aKeyIsWhatAnotherProgramMakesOfIt(String list, String value, String key) {
    assertThat(new PinKey.Maker(KEY, list).of(value)).hasToString(key);
    assertThat(PinKey.parse(key)).contains(new PinKey.Maker(KEY, list).of(value));
  }

  @ParameterizedTest
  @CsvSource({"OR10000000", "k123", "K72633517fec28907b4f71a4e14cdc9c3", "''"})
  void whatIsNoDigestIsNoKey(String text) {
    assertThat(PinKey.parse(text)).isEmpty();
  }

  @Test
  void whatIsWrittenIsRead() {
    String odd = "=1+1";
    String more = "a, \"b\";\nc";
    PinFile file = parse("key,name,login\n");
    assertThat(file.toText()).isEqualTo("key,name,login\n");
    file.add(key(ONE));
    assertThat(file.add(key(ONE))).isFalse();
    file.add(key(TWO));
    assertThat(file.fill(0, 0, odd)).isTrue();
    assertThat(file.fill(0, 0, "another")).isFalse();
    assertThat(file.fill(1, 1, more)).isTrue();
    PinFile again = parse(file.toText());
    assertThat(file.toText()).contains("'=1+1");
    assertThat(again.value(again.line(key(ONE)), 0)).isEqualTo(odd);
    assertThat(again.value(again.line(key(TWO)), 1)).isEqualTo(more);
    assertThat(again.value(again.line(key(TWO)), 0)).isEmpty();
    assertThat(again.toText()).isEqualTo(file.toText());
  }

  @Test
  void headingsStandInAnyOrderAndMayBeMissing() {
    PinFile file = parse("\ufefflogin;key\r\ntesta;" + ONE + "\r\n");
    assertThat(file.value(0, 1)).isEqualTo("testa");
    assertThat(file.value(0, 0)).isEmpty();
    assertThat(file.place(0)).hasToString("staff.csv:2:1");
  }

  @Test
  void ofTwoLinesThatDifferNeitherCounts() {
    PinFile file = parse("key,name,login\n" + ONE + ",a,b\n" + TWO + ",c,d\n" + ONE + ",a,x\n");
    assertThat(file.line(key(ONE))).isEqualTo(-1);
    assertThat(file.isAmbiguous(key(ONE))).isTrue();
    assertThat(file.line(key(TWO))).isEqualTo(1);
    assertThat(file.ambiguities()).hasSize(1);
    assertThat(file.ambiguities().get(0))
        .extracting(Place::toString)
        .containsExactly("staff.csv:2:1", "staff.csv:4:1");
    PinFile same = parse("key,name,login\n" + ONE + ",a,b\n" + ONE + ",a,b\n");
    assertThat(same.line(key(ONE))).isZero();
  }

  @Test
  void anOriginalInAListIsRefusedAndNotShown() {
    assertThatThrownBy(() -> parse("key,name,login\nOR10000000,a,b\n"))
        .isInstanceOfSatisfying(
            Problem.class,
            problem ->
                assertThat(problem.what() + problem.why() + problem.remedy() + problem.where())
                    .contains("staff.csv:2:1")
                    .doesNotContain("OR10000000"));
  }

  /** Again and again: a file may have the number of one that was there a moment ago. */
  @RepeatedTest(8)
  void ofManyAtATimeNoLineIsLost() throws Exception {
    PinKey.Maker maker = new PinKey.Maker(KEY, "staff");
    List<PinKey> keys = IntStream.range(0, 60).mapToObj(i -> maker.of("OR" + i)).toList();
    var threads = Executors.newFixedThreadPool(6);
    List<Future<Long>> added = new ArrayList<>();
    for (int thread = 0; thread < 6; thread++) {
      int from = thread * 10;
      Callable<Long> one =
          () -> {
            long count = 0;
            for (PinKey key : keys.subList(from, Math.min(60, from + 15))) {
              count += PinFile.update(folder, list(), file -> file.add(key) ? 1L : 0L, n -> n > 0);
            }
            return count;
          };
      added.add(threads.submit(one));
    }
    long all = 0;
    for (Future<Long> one : added) {
      all += one.get();
    }
    threads.shutdown();
    assertThat(all).isEqualTo(60);
    List<String> lines = Files.readAllLines(folder.resolve("pins/staff.csv"));
    assertThat(lines).hasSize(61).doesNotHaveDuplicates();
    assertThat(folder.resolve("pins").toFile().list())
        .containsExactlyInAnyOrder("staff.csv", ".staff.csv.lock");
  }

  @Test
  void linesOfRowsAreThoseOfAMap() {
    Random random = new Random(7);
    PinnedLines lines = new PinnedLines();
    Map<Long, Integer> twin = new HashMap<>();
    for (int i = 0; i < 50_000; i++) {
      long row = i % 3 == 0 ? random.nextInt(40_000) : random.nextLong() >>> 1;
      lines.put(row, i);
      twin.put(row, i);
    }
    assertThat(twin.entrySet()).allMatch(entry -> lines.get(entry.getKey()) == entry.getValue());
    for (int i = 0; i < 50_000; i++) {
      long row = random.nextInt(80_000);
      assertThat(lines.get(row)).isEqualTo(twin.getOrDefault(row, -1));
    }
    assertThat(lines.get(0)).isEqualTo(twin.getOrDefault(0L, -1));
  }

  @Test
  void aPasswordHasAsManyBitsAsItSays() throws Exception {
    List<String> words;
    try (var in = Passphrase.class.getResourceAsStream("words.txt")) {
      words = new String(in.readAllBytes()).lines().filter(line -> !line.startsWith("#")).toList();
    }
    assertThat(words).hasSize(512).doesNotHaveDuplicates().allMatch(w -> w.matches("[a-z]{3,8}"));
    assertThat(Passphrase.bits()).isEqualTo((int) (4 * 9 + Math.log(900) / Math.log(2)));
    List<String> made = IntStream.range(0, 500).mapToObj(i -> Passphrase.random()).toList();
    assertThat(made)
        .doesNotHaveDuplicates()
        .allMatch(password -> password.matches("([a-z]{3,8}-){4}[1-9][0-9]{2}"));
    assertThat(made.stream().map(password -> password.split("-")[0]).distinct().count())
        .isGreaterThan(250);
  }
}
