package yemble.jdbc.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.name.TableName;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.jdbc.TestServer;

/** The text of COPY, row numbers, and which types take which. */
class CopyTextTest {
  private static Object roundTrip(ColumnType type, Object value) {
    CopyText.Block block = new CopyText.Block(4);
    block.raw('x');
    block.raw('\t');
    block.value(value);
    block.raw('\n');
    byte[] line = java.util.Arrays.copyOf(block.bytes(), block.length());
    int[] ends = new int[2];
    CopyText.split(line, ends);
    return type.value(line, ends[0] + 1, ends[1]);
  }

  @Test
  void everyTextComesBackAsItWas() {
    Random random = new Random(3);
    String letters = "ab\\\t\n\r\b\f\u000bN.é€\uD83D\uDEA2\"'\0".replace("\0", "");
    for (int i = 0; i < 5_000; i++) {
      StringBuilder text = new StringBuilder();
      for (int n = random.nextInt(12); n > 0; n--) {
        int at = random.nextInt(letters.length());
        char c = letters.charAt(at);
        text.append(Character.isSurrogate(c) ? "\uD83D\uDEA2" : String.valueOf(c));
      }
      assertThat(roundTrip(ColumnType.TEXT, text.toString())).isEqualTo(text.toString());
    }
    assertThat(roundTrip(ColumnType.TEXT, "\\N")).isEqualTo("\\N");
    assertThat(roundTrip(ColumnType.TEXT, null)).isNull();
  }

  /** A line of a parcel gives what its values give one by one. */
  @Test
  void aLineOfAParcelIsALineOfItsValues() {
    String fields = "7\tn-12\td0.1\tta\\\\b\\tc\\n\\r\t\\N\tbAAH/\tt\ttcaf\u00e9 \uD83D\uDEA2";
    byte[] line = fields.getBytes(java.nio.charset.StandardCharsets.UTF_8);
    int[] ends = new int[8];
    CopyText.split(java.util.Arrays.copyOf(line, line.length + 1), ends);
    CopyText.Block packed = new CopyText.Block(4);
    packed.packed(line, ends);
    CopyText.Block plain = new CopyText.Block(4);
    Object[] values = {
      -12L, 0.1, "a\\b\tc\n\r", null, new byte[] {0, 1, -1}, "", "caf\u00e9 \uD83D\uDEA2"
    };
    plain.row(values);
    assertThat(java.util.Arrays.copyOf(packed.bytes(), packed.length()))
        .isEqualTo(java.util.Arrays.copyOf(plain.bytes(), plain.length()));
    for (String odd : new String[] {"1\tx1", "1\t"}) {
      byte[] bytes = odd.getBytes(java.nio.charset.StandardCharsets.UTF_8);
      org.assertj.core.api.Assertions.assertThatThrownBy(
              () -> new CopyText.Block(4).packed(bytes, new int[] {1, bytes.length}))
          .isInstanceOf(IllegalArgumentException.class);
    }
  }

  @Test
  void everyNumberAndEveryByteComesBackAsItWas() {
    for (long number : new long[] {0, -1, 1, Long.MAX_VALUE, Long.MIN_VALUE, 1234567890123L}) {
      assertThat(roundTrip(ColumnType.WHOLE, number)).isEqualTo(number);
    }
    for (double number : new double[] {0.1, -0.0, Double.MIN_VALUE, Double.NaN, 1e300}) {
      assertThat(roundTrip(ColumnType.FLOATING, number)).isEqualTo(number);
    }
    byte[] all = new byte[256];
    for (int i = 0; i < all.length; i++) {
      all[i] = (byte) i;
    }
    assertThat(roundTrip(ColumnType.BINARY, all)).isEqualTo(all);
    assertThat(roundTrip(ColumnType.BINARY, new byte[0])).isEqualTo(new byte[0]);
  }

  /** What the server itself writes is what is read, character by character. */
  @Test
  void everyCharacterOfTheServersOwnTextIsRead() throws Exception {
    String url = TestServer.database();
    TestServer.run(
        url,
        "CREATE TABLE c (n integer, t text)",
        "INSERT INTO c SELECT i, chr(i) || 'x' || chr(i) FROM generate_series(1, 3000) i");
    try (var reader = new PostgresqlEngine().open(TestServer.address("t", url))) {
      Table table = reader.schema().table(TableName.of("c"));
      int[] seen = new int[1];
      reader.rows(
          table,
          "",
          table.columns(),
          (row, values) -> {
            String c = new String(Character.toChars(((Long) values[0]).intValue()));
            assertThat(values[1]).isEqualTo(c + "x" + c);
            seen[0]++;
          });
      assertThat(seen[0]).isEqualTo(3000);
    }
  }

  @Test
  void aRowNumberHoldsPartitionBlockAndPlace() {
    Table table =
        new Table(
            TableName.of("t"),
            List.of(new Column("a", "text", true, false)),
            List.of(),
            List.of(),
            "");
    Storage storage =
        new Storage(
            1,
            table,
            "\"public\".\"t\"",
            List.of(
                new Storage.Leaf(40, "\"public\".\"l0\""),
                new Storage.Leaf(50, "\"public\".\"l1\"")),
            10,
            Map.of(),
            Map.of(),
            Map.of(),
            Set.of());
    RowNumbers numbers = new RowNumbers(storage, 8192);
    byte[] line = "50\t(4294967294,291)\n".getBytes();
    int[] ends = new int[2];
    CopyText.split(line, ends);
    RowSet rows = new RowSet();
    rows.add(numbers.number(line, ends, 0));
    line = "40\t(0,1)\n".getBytes();
    CopyText.split(line, ends);
    rows.add(numbers.number(line, ends, 0));
    StringBuilder sql = new StringBuilder();
    numbers.batches("x", rows, 10, List.of(), from -> sql.append(from).append('\n'));
    assertThat(sql.toString())
        .containsSubsequence("\"l0\"", "'{\"(0,1)\"}'", "\"l1\"", "'{\"(4294967294,291)\"}'");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "text|character varying(10)|true",
        "character varying(10)|character varying(9)|true",
        "character varying(9)|character varying(10)|false",
        "character varying|character varying(10)|true",
        "character varying(10)|text|false",
        "bigint|integer|true",
        "integer|bigint|false",
        "numeric|bigint|true",
        "double precision|real|true",
        "real|double precision|false",
        "timestamp with time zone|timestamp without time zone|false",
        "date|date|true"
      })
  void aWiderColumnTakesWhatANarrowerOneHolds(String wide, String narrow, boolean takes) {
    assertThat(FoundTables.takes(wide, narrow)).isEqualTo(takes);
  }
}
