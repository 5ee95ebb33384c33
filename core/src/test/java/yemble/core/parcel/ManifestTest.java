package yemble.core.parcel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import yemble.core.crypto.SecretKey;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.RowDigest;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Environment;
import yemble.core.store.Engine;
import yemble.core.store.Origin;

class ManifestTest {
  private static final SecretKey KEY = SecretKey.random();

  private static Manifest manifest(Optional<Manifest.Sealed> sealed) {
    RowDigest row = new RowDigest(new byte[RowDigest.KEY]);
    row.take(new Object[] {1L, "a \"quoted\" text"}, new int[] {0});
    BucketSums sums = new BucketSums();
    sums.add(row);
    TableName odd = new TableName("own", "a/b \"c\" , \"digest\" : \"");
    return new Manifest(
        "live",
        Environment.COPY,
        new Engine.Family("SQLite", false, true, false, false, 0),
        new Origin("SQLite", Map.of("file", "/data/live.db"), Optional.empty()),
        new Loaded(
            "yemble 1",
            Instant.parse("2026-11-29T09:10:00Z"),
            "me",
            "nightly",
            "live (copy)",
            "0a0b0c0d",
            "rules",
            1,
            List.of(odd.toString()),
            new byte[RowDigest.KEY],
            List.of(
                new LoadedTable(
                    odd,
                    List.of("id", "x"),
                    List.of(Optional.empty(), Optional.empty()),
                    List.of("id"),
                    sums.worthKeeping()))),
        List.of(new Manifest.Part("rows/00001", 12, "00")),
        Map.of(odd, new Manifest.Rows("rows/00001", 1)),
        Map.of("person.name", "full-name"),
        List.of(new Manifest.Proof("rows", "holds", "1 row")),
        sealed);
  }

  @Test
  void whatIsWrittenIsRead() throws Exception {
    Manifest manifest = manifest(Optional.empty());
    byte[] bytes = manifest.toJson(Optional.empty());
    assertThat(Manifest.of(bytes, "x")).usingRecursiveComparison().isEqualTo(manifest);
    assertThat(Manifest.of(bytes, "x").title()).isEqualTo("live (copy)");
  }

  @Test
  void everyByteCounts() throws Exception {
    byte[] bytes = manifest(Optional.empty()).toJson(Optional.empty());
    int end = new String(bytes, StandardCharsets.UTF_8).lastIndexOf(",\n  \"digest\"");
    for (int i = 0; i < end; i += 7) {
      byte[] bent = bytes.clone();
      bent[i] ^= 1;
      Problem problem =
          catchThrowableOfType(Problem.class, () -> Manifest.of(bent, "nightly.parcel"));
      assertThat(problem).as("byte %d", i).isNotNull();
      assertThat(problem.failure()).isIn(Failure.PARCEL_DAMAGED, Failure.PARCEL_NEWER);
      assertThat(problem.where()).isEqualTo("nightly.parcel");
    }
  }

  /** A digest that fits makes no manifest of what is none. */
  @Test
  void whatOnlyLooksLikeOne() {
    for (String text :
        List.of("{\n  \"parcel\" : 1", "{\n  \"parcel\" : 1,\n  \"environment\" : \"moon\"")) {
      String digest = Manifest.sha256(text.getBytes(StandardCharsets.UTF_8));
      byte[] bytes =
          (text + ",\n  \"digest\" : \"" + digest + "\"\n}\n").getBytes(StandardCharsets.UTF_8);
      Problem problem = catchThrowableOfType(Problem.class, () -> Manifest.of(bytes, "x"));
      assertThat(problem.failure()).isEqualTo(Failure.PARCEL_DAMAGED);
    }
  }

  /** Who has no key can make the digest anew, and not the seal. */
  @Test
  void aSealIsOfItsKey() throws Exception {
    Seal seal = Seal.of(KEY);
    Manifest manifest = manifest(Optional.of(new Manifest.Sealed(seal.id(), KEY.fingerprint())));
    byte[] bytes = manifest.toJson(Optional.of(seal));
    assertThat(Manifest.of(bytes, "x").sealed().orElseThrow().id()).isEqualTo(seal.id());
    assertThat(Manifest.isSealed(bytes, seal)).isTrue();
    assertThat(Manifest.isSealed(bytes, new Seal(SecretKey.random(), seal.id()))).isFalse();
    // Nothing that tells rows lies open, and with the key all of it is there.
    Manifest open = Manifest.of(bytes, "x");
    assertThat(open.load().tables()).isEmpty();
    assertThat(open.load().digestKey()).containsOnly(0);
    assertThat(open.load().rules()).isEqualTo(manifest.load().rules());
    Manifest opened = open.opened(bytes, seal);
    assertThat(opened.load().tables()).isEqualTo(manifest.load().tables()).isNotEmpty();
    assertThat(opened.load().digestKey()).isEqualTo(manifest.load().digestKey());
    byte[] without = manifest.toJson(Optional.empty());
    assertThat(Manifest.of(without, "x")).isNotNull();
    assertThat(Manifest.isSealed(without, seal)).isFalse();
  }

  private static byte[] sealed(Seal seal, String part, byte[] content) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (OutputStream closing = seal.closing(out, part)) {
      closing.write(content);
    }
    return out.toByteArray();
  }

  /** A part is bound to its parcel, to its name, and to its key. */
  @Test
  void aSealedPartOpensInItsPlaceAlone() throws Exception {
    Seal seal = Seal.of(KEY);
    byte[] content = "1\ttOrla Tidewick\n".repeat(200_000).getBytes(StandardCharsets.UTF_8);
    byte[] closed = sealed(seal, "rows/00001", content);
    assertThat(closed).hasSizeLessThan(content.length / 20);
    assertThat(new String(closed, StandardCharsets.ISO_8859_1)).doesNotContain("Tidewick");
    try (InputStream in = seal.opening(new ByteArrayInputStream(closed), "rows/00001")) {
      assertThat(in.readAllBytes()).isEqualTo(content);
    }
    byte[] bent = closed.clone();
    bent[bent.length / 2] ^= 1;
    refused(seal, bent, "rows/00001");
    refused(seal, Arrays.copyOf(closed, closed.length - 1), "rows/00001");
    refused(seal, closed, "rows/00002");
    refused(Seal.of(KEY), closed, "rows/00001");
    refused(new Seal(SecretKey.random(), seal.id()), closed, "rows/00001");
  }

  private static void refused(Seal seal, byte[] bytes, String part) {
    assertThat(
            catchThrowableOfType(
                IOException.class,
                () -> {
                  try (InputStream in = seal.opening(new ByteArrayInputStream(bytes), part)) {
                    in.readAllBytes();
                  }
                }))
        .isNotNull();
  }
}
