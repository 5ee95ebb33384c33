package yemble.jdbc.sqlite;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.Engine;
import yemble.core.store.Reader;

/**
 * Remembers a file by its SHA-256.
 *
 * <p>Never called while the file is being read through SQLite: closing any handle on a file drops
 * the POSIX locks that the process holds on it, those of SQLite too.
 */
final class FileWitness implements Engine.Witness {
  private final Path file;
  private final byte[] digest;

  FileWitness(Path file) {
    this.file = file;
    this.digest = digest();
  }

  @Override
  public boolean unchanged(Reader reader) {
    return reader.undisturbed() && Arrays.equals(digest, digest());
  }

  @Override
  public String method() {
    return "SHA-256 of the file before and after";
  }

  private byte[] digest() {
    byte[] buffer = new byte[1 << 18];
    try (InputStream in = Files.newInputStream(file)) {
      MessageDigest sha = MessageDigest.getInstance("SHA-256");
      for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
        sha.update(buffer, 0, read);
      }
      return sha.digest();
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the file cannot be read")
          .at(file.toString())
          .causedBy(e);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
