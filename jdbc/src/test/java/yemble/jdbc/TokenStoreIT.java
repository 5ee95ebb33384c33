package yemble.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import javax.crypto.Cipher;
import javax.crypto.Mac;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Conveyor;
import yemble.core.store.Engine;
import yemble.core.store.TokenTables;
import yemble.core.token.TokenStore;

/** What lies in a token store, read by Java's own ciphers, and what a failed rotation leaves. */
class TokenStoreIT {
  private static final String STORE = "cards";

  @TempDir Path folder;

  private final SecretKey key = SecretKey.random();

  private TokenTables tables(boolean begins) {
    Engine.Address address = new Engine.Address(STORE, "jdbc:sqlite:cards.tokens", folder, "", "");
    return Engines.of(address).tokens(address, STORE, begins);
  }

  private TokenStore open(SecretKey with) {
    return TokenStore.open(STORE, tables(false), with);
  }

  private static void put(TokenStore store, Map<String, String> tokens) {
    List<TokenTables.Entry> entries =
        tokens.entrySet().stream().map(e -> store.seal(e.getKey(), e.getValue())).toList();
    Conveyor<List<TokenTables.Entry>, RuntimeException> conveyor;
    try (TokenStore.Keeping keeping = store.keeping("payment.card_no")) {
      conveyor = new Conveyor<>("payment", keeping::addAll);
      conveyor.hand(java.util.concurrent.CompletableFuture.completedFuture(entries));
      conveyor.finish();
      keeping.finish();
    }
  }

  private void sql(String... statements) throws SQLException {
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("cards.tokens"));
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  private Map<String, byte[]> bytes(String query) throws SQLException {
    Map<String, byte[]> found = new TreeMap<>();
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("cards.tokens"));
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        found.put(rows.getString(1), rows.getBytes(2));
      }
    }
    return found;
  }

  private static byte[] hmac(byte[] with, byte[] message) throws Exception {
    Mac mac = Mac.getInstance("HmacSHA256");
    mac.init(new SecretKeySpec(with, "HmacSHA256"));
    return mac.doFinal(message);
  }

  /** HKDF (RFC 5869) without salt, 16 bytes. */
  private static byte[] derived(SecretKey of, String info) throws Exception {
    byte[] pseudorandom = hmac(new byte[32], Base64.getUrlDecoder().decode(of.reveal()));
    byte[] message = (info + "\u0001").getBytes(StandardCharsets.UTF_8);
    return Arrays.copyOf(hmac(pseudorandom, message), 16);
  }

  private static byte[] opened(byte[] with, byte[] sealed, int from, String bound)
      throws Exception {
    Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
    cipher.init(
        Cipher.DECRYPT_MODE,
        new SecretKeySpec(with, "AES"),
        new GCMParameterSpec(128, sealed, from, 12));
    cipher.updateAAD(bound.getBytes(StandardCharsets.UTF_8));
    return cipher.doFinal(sealed, from + 12, sealed.length - from - 12);
  }

  @Test
  void whatItHoldsIsReadByJavasOwnCiphers() throws Exception {
    TokenStore.begin(STORE, tables(true), key).close();
    assertThat(
            PosixFilePermissions.toString(
                Files.getPosixFilePermissions(folder.resolve("cards.tokens"))))
        .isEqualTo("rw-------");
    SecretKey permutation;
    try (TokenStore store = open(key)) {
      put(store, Map.of("4999", "4000", "4888", "4001"));
      permutation = store.permutation();
    }
    byte[] head = bytes("SELECT 'head', head FROM yemble_store_cards").get("head");
    byte[] wide = Arrays.copyOf(derived(key, "yemble/1/store/1"), 32);
    System.arraycopy(derived(key, "yemble/1/store/2"), 0, wide, 16, 16);
    byte[] keys = opened(wide, head, 1, "token store cards");
    assertThat(keys).hasSize(64);
    assertThat(Base64.getUrlEncoder().withoutPadding().encodeToString(Arrays.copyOf(keys, 32)))
        .isEqualTo(permutation.reveal());
    byte[] originals = Arrays.copyOfRange(keys, 32, 64);
    Map<String, byte[]> sealed = bytes("SELECT token, original FROM yemble_store_cards_tokens");
    assertThat(new String(opened(originals, sealed.get("4999"), 0, "4999"), StandardCharsets.UTF_8))
        .isEqualTo("4000");
    assertThat(new String(opened(originals, sealed.get("4888"), 0, "4888"), StandardCharsets.UTF_8))
        .isEqualTo("4001");
    // Bound to its token: what is put under another one does not open.
    assertThatThrownBy(() -> opened(originals, sealed.get("4999"), 0, "4888"))
        .isInstanceOf(java.security.GeneralSecurityException.class);
  }

  @Test
  void aRotationThatFailsLeavesTheStoreAsItWas() throws Exception {
    TokenStore.begin(STORE, tables(true), key).close();
    SecretKey next = SecretKey.random();
    try (TokenStore store = open(key)) {
      put(store, Map.of("a", "1", "b", "2", "c", "3"));
    }
    sql(
        "UPDATE yemble_store_cards_tokens SET original = x'00112233445566778899aabbccddeeff00112233445566778899' WHERE token = 'c'");
    Map<String, byte[]> before =
        bytes("SELECT token, hex(original) FROM yemble_store_cards_tokens");
    try (TokenStore store = open(key)) {
      assertThatThrownBy(() -> store.rotate(next))
          .isInstanceOfSatisfying(
              Problem.class, problem -> assertThat(problem.failure()).isEqualTo(Failure.STORE_KEY));
      assertThat(store.originals(List.of("a", "b"), "ann", "a test"))
          .isEqualTo(Map.of("a", "1", "b", "2"));
    }
    assertThat(bytes("SELECT token, hex(original) FROM yemble_store_cards_tokens"))
        .usingRecursiveComparison()
        .isEqualTo(before);
    assertThatThrownBy(() -> open(next)).isInstanceOf(Problem.class);
  }

  @Test
  void whoHasOpenedItBeforeARotationKeepsNothing() throws Exception {
    TokenStore.begin(STORE, tables(true), key).close();
    try (TokenStore early = open(key);
        TokenStore other = open(key)) {
      assertThat(other.rotate(SecretKey.random())).isZero();
      assertThatThrownBy(() -> put(early, Map.of("a", "1")))
          .isInstanceOfSatisfying(
              Problem.class, problem -> assertThat(problem.what()).contains("rotated meanwhile"));
    }
    assertThat(bytes("SELECT token, original FROM yemble_store_cards_tokens")).isEmpty();
  }

  @Test
  void theFirstOriginalOfATokenStays() throws Exception {
    TokenStore.begin(STORE, tables(true), key).close();
    try (TokenStore store = open(key)) {
      put(store, Map.of("a", "1"));
      sql("UPDATE yemble_store_cards_tokens SET seen = 100");
      put(store, Map.of("a", "1", "b", "2"));
      assertThat(store.originals(List.of("b", "a", "x"), "ann", "a test"))
          .isEqualTo(Map.of("a", "1", "b", "2"));
      assertThat(store.content().tokens()).isEqualTo(2);
      assertThat(store.content().oldest()).isAfter(java.time.LocalDate.ofEpochDay(100));
      assertThat(store.questions(9)).hasSize(1);
      assertThat(store.questions(9).get(0)[2]).isEqualTo("a test");
    }
  }
}
