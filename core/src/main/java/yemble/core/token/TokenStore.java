package yemble.core.token;

import com.google.crypto.tink.subtle.AesGcmJce;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.crypto.SecretKey;
import yemble.core.moment.Now;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Conveyor;
import yemble.core.store.TokenTables;

/**
 * A token store that is open: what makes tokens, and what leads back from them. It begins with a
 * head, sealed under the store's key: the key of the permutation, which stays as long as the store,
 * and the key of the originals, which {@link #rotate} replaces. Each original is sealed under that
 * one, bound to its token (AES-256-GCM). Belongs to one thread.
 */
public final class TokenStore implements AutoCloseable {
  private static final byte FORM = 1;

  private final String name;
  private final TokenTables tables;
  private final byte[] head;
  private final SecretKey permutation;
  private final AesGcmJce originals;

  private TokenStore(String name, TokenTables tables, byte[] head, byte[] opened) {
    this.name = name;
    this.tables = tables;
    this.head = head;
    this.permutation = key(Arrays.copyOf(opened, SecretKey.LENGTH));
    this.originals = sealing(Arrays.copyOfRange(opened, SecretKey.LENGTH, opened.length));
  }

  /**
   * Makes a store in a database that holds no other tables.
   *
   * @throws Problem of type REFUSED if there is one of this name, or the database holds others
   */
  public static TokenStore begin(String name, TokenTables tables, SecretKey key) {
    if (tables.holdsOthers()) {
      throw Problem.of(Failure.STORE_PLACE, "the database of the store " + name + " is not empty")
          .at(tables.description())
          .because("it holds tables that belong to no token store")
          .remedy("give the store a database, or a file, of its own");
    }
    if (tables.head().isPresent()) {
      throw Problem.of(Failure.FILE_THERE, "the token store " + name + " is there already")
          .at(tables.description())
          .remedy("yemble tokens shows what it holds");
    }
    // Of the key: so a store that was lost makes the same tokens when it is begun again.
    byte[] head = sealed(name, key, wide(key, "tokens"), random());
    tables.begin(head);
    return open(name, tables, key);
  }

  /**
   * Opens a store.
   *
   * @throws Problem of type DATABASE if it is not there, or another key's
   */
  public static TokenStore open(String name, TokenTables tables, SecretKey key) {
    byte[] head = tables.head().orElseThrow(() -> missing(name, tables.description()));
    try {
      byte[] opened =
          sealing(wide(key, "store"))
              .decrypt(Arrays.copyOfRange(head, 1, head.length), bound(name));
      return new TokenStore(name, tables, head, opened);
    } catch (GeneralSecurityException otherKey) {
      throw Problem.of(Failure.STORE_KEY, "the token store " + name + " has another key")
          .at(tables.description())
          .because("what it begins with cannot be opened with this one")
          .remedy("ask who began it, or who has rotated it since, for its key");
    }
  }

  /** That a store is not where it should be. */
  public static Problem missing(String name, String where) {
    return Problem.of(Failure.STORE_MISSING, "there is no token store " + name)
        .at(where)
        .because("without it nothing would lead back from the tokens of this run")
        .remedy("if it was lost, restore it; a new one begins with yemble tokens begin " + name);
  }

  private static byte[] sealed(String name, SecretKey key, byte[] permutation, byte[] originals) {
    byte[] plain =
        ByteBuffer.allocate(2 * SecretKey.LENGTH).put(permutation).put(originals).array();
    try {
      byte[] sealed = sealing(wide(key, "store")).encrypt(plain, bound(name));
      return ByteBuffer.allocate(1 + sealed.length).put(FORM).put(sealed).array();
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  private static byte[] bound(String name) {
    return ("token store " + name).getBytes(StandardCharsets.UTF_8);
  }

  private static byte[] random() {
    return Base64.getUrlDecoder().decode(SecretKey.random().reveal());
  }

  private static SecretKey key(byte[] bytes) {
    return SecretKey.parse(Base64.getUrlEncoder().withoutPadding().encodeToString(bytes))
        .orElseThrow();
  }

  /** 32 bytes for one purpose. */
  private static byte[] wide(SecretKey key, String of) {
    return ByteBuffer.allocate(SecretKey.LENGTH)
        .put(key.scopeKey(of + "/1"))
        .put(key.scopeKey(of + "/2"))
        .array();
  }

  private static AesGcmJce sealing(byte[] key) {
    try {
      return new AesGcmJce(key);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  public String name() {
    return name;
  }

  /** Where it lies, for people. */
  public String description() {
    return tables.description();
  }

  /** What its tokens are made under; of the store alone. */
  public SecretKey permutation() {
    return permutation;
  }

  /** Begins to keep what leads back from tokens of a column. */
  public Keeping keeping(String column) {
    return new Keeping(column, tables.keeping());
  }

  /** What leads back from tokens of a column, until all of it is there. */
  public final class Keeping implements AutoCloseable {
    private final String column;
    private final TokenTables.Keeping waiting;

    private Keeping(String column, TokenTables.Keeping waiting) {
      this.column = column;
      this.waiting = waiting;
    }

    /** Adds blocks of what {@link #seal} makes, in whatever thread. */
    public void addAll(Conveyor.Blocks<List<TokenTables.Entry>> blocks) {
      List<TokenTables.Entry> block = blocks.next();
      while (block != null) {
        waiting.add(block);
        block = blocks.next();
      }
    }

    /**
     * Keeps all of them, or nothing; those that are in the store stay as they are.
     *
     * @throws Problem of type DATABASE if somebody has rotated the store since it was opened
     */
    public void finish() {
      if (!waiting.finish(head, column, Now.dayInUtc())) {
        throw rotated();
      }
    }

    @Override
    public void close() {
      waiting.close();
    }
  }

  private Problem rotated() {
    return Problem.of(Failure.STORE_KEY, "the token store " + name + " was rotated meanwhile")
        .at(tables.description())
        .because("what would be kept now could not be opened with its new key")
        .remedy("put the new key in place, and run the same command again");
  }

  /** A token with its original, sealed; for any thread. */
  public TokenTables.Entry seal(String token, String original) {
    return seal(originals, token, original);
  }

  private static TokenTables.Entry seal(AesGcmJce under, String token, String original) {
    try {
      byte[] bound = token.getBytes(StandardCharsets.UTF_8);
      return new TokenTables.Entry(
          token, under.encrypt(original.getBytes(StandardCharsets.UTF_8), bound));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  private String open(TokenTables.Entry entry) {
    try {
      byte[] bound = entry.token().getBytes(StandardCharsets.UTF_8);
      return new String(originals.decrypt(entry.original(), bound), StandardCharsets.UTF_8);
    } catch (GeneralSecurityException e) {
      throw Problem.of(Failure.STORE_KEY, "an entry of the token store " + name + " is damaged")
          .at(tables.description())
          .because("it is not what was kept for its token")
          .remedy("restore the store from a backup");
    }
  }

  /**
   * The originals of tokens. That they were asked for is written down first.
   *
   * @param who asks, and why
   * @return by token, in the order in which they are asked for; without those that are not there
   */
  public Map<String, String> originals(List<String> asked, String who, String why) {
    tables.asked(who, Now.second().toString(), why, asked.size());
    Map<String, String> found = new LinkedHashMap<>();
    tables.find(asked).forEach(entry -> found.put(entry.token(), open(entry)));
    return found;
  }

  /** Who asked for originals, the newest first: when, who, why, how many. */
  public List<String[]> questions(int most) {
    return tables.questions(most);
  }

  /**
   * Encrypts all originals anew, under a new key; tokens stay what they are.
   *
   * @return how many there are
   */
  public long rotate(SecretKey next) {
    byte[] data = random();
    byte[] permuting = Base64.getUrlDecoder().decode(permutation.reveal());
    AesGcmJce under = sealing(data);
    long count =
        tables.rewrite(
            head,
            sealed(name, next, permuting, data),
            entry -> seal(under, entry.token(), open(entry)));
    if (count < 0) {
      throw rotated();
    }
    return count;
  }

  /** Removes what leads back from tokens that were seen last before a day; how many. */
  public long expire(LocalDate before) {
    return tables.expire(before);
  }

  public TokenTables.Content content() {
    return tables.content();
  }

  @Override
  public void close() {
    tables.close();
  }
}
