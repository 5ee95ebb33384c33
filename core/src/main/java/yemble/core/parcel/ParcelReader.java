package yemble.core.parcel;

import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.FileNotFoundException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.LongConsumer;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;
import yemble.core.crypto.SecretKey;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Condition;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Origin;
import yemble.core.store.Reader;
import yemble.core.store.SequencePosition;

/**
 * Reads a parcel. Its rows can be read, and nothing can be asked of them: a parcel has no database
 * to compare values in.
 */
public final class ParcelReader implements Reader, PackedRows {
  private static final byte[] ZIP = {'P', 'K'};

  private final Path file;
  private final ZipFile zip;
  private final PackedStructure structure;
  private final Map<TableName, Manifest.Rows> tables;
  private final Manifest manifest;
  private final Optional<Seal> seal;

  private ParcelReader(
      Path file,
      ZipFile zip,
      PackedStructure structure,
      Map<TableName, Manifest.Rows> tables,
      Manifest manifest,
      Optional<Seal> seal) {
    this.seal = seal;
    this.file = file;
    this.zip = zip;
    this.structure = structure;
    this.tables = tables;
    this.manifest = manifest;
  }

  /** What has been written so far, before there is a manifest. */
  static ParcelReader unproved(
      Path file,
      PackedStructure structure,
      Map<TableName, Manifest.Rows> tables,
      Optional<Seal> seal) {
    try {
      return new ParcelReader(file, new ZipFile(file.toFile()), structure, tables, null, seal);
    } catch (IOException e) {
      throw unreadable(file, e);
    }
  }

  /**
   * Opens a parcel and reads its manifest; whether its parts are sound is not looked at.
   *
   * @throws Problem of type DATABASE if it is not one, cut short, damaged, or of a newer form
   */
  public static Manifest manifest(Path file) {
    try (ZipFile zip = zip(file)) {
      return manifest(file, zip);
    } catch (IOException e) {
      throw Manifest.damaged(file.toString(), "its manifest cannot be read").causedBy(e);
    }
  }

  /**
   * Opens a parcel, and looks at all of it: every part must have the digest that the manifest has
   * for it, and nothing else may lie there.
   *
   * @param key of sealed parcels, if there is one
   * @throws Problem of type DATABASE if it is not one, cut short, damaged, or of a newer form, or
   *     sealed with another key; of type REFUSED if it is sealed and there is no key
   */
  public static ParcelReader open(Path file, Optional<SecretKey> key) {
    ZipFile zip = zip(file);
    try {
      Manifest manifest = manifest(file, zip);
      Optional<Seal> seal = seal(file, zip, manifest, key);
      if (seal.isPresent()) {
        byte[] text = zip.getInputStream(zip.getEntry(ParcelSink.MANIFEST)).readAllBytes();
        manifest = manifest.opened(text, seal.get());
      }
      check(file, zip, manifest);
      return new ParcelReader(file, zip, structure(zip, seal), manifest.tables(), manifest, seal);
    } catch (IOException | RuntimeException e) {
      try {
        zip.close();
      } catch (IOException second) {
        e.addSuppressed(second);
      }
      if (e instanceof Problem problem) {
        throw problem;
      }
      throw Manifest.damaged(file.toString(), "a part of it cannot be read").causedBy(e);
    }
  }

  /**
   * The structure in a parcel, whose parts are not looked at.
   *
   * @param key of sealed parcels, if there is one
   * @throws Problem of type DATABASE if it cannot be read
   */
  public static Schema schema(Path file, Optional<SecretKey> key) {
    try (ZipFile zip = zip(file)) {
      return structure(zip, seal(file, zip, manifest(file, zip), key)).schema();
    } catch (IOException e) {
      throw Manifest.damaged(file.toString(), "its structure cannot be read").causedBy(e);
    }
  }

  private static PackedStructure structure(ZipFile zip, Optional<Seal> seal) throws IOException {
    try (InputStream in = part(zip, seal, ParcelSink.STRUCTURE)) {
      return PackedStructure.of(in.readAllBytes());
    }
  }

  private static InputStream part(ZipFile zip, Optional<Seal> seal, String name)
      throws IOException {
    InputStream stored = zip.getInputStream(zip.getEntry(name));
    return seal.isPresent() ? seal.get().opening(stored, name) : stored;
  }

  private static Optional<Seal> seal(
      Path file, ZipFile zip, Manifest manifest, Optional<SecretKey> key) throws IOException {
    if (manifest.sealed().isEmpty()) {
      return Optional.empty();
    }
    if (key.isEmpty()) {
      throw Problem.of(Failure.PARCEL_KEY_MISSING, "this parcel is sealed, and there is no key")
          .at(file.toString())
          .remedy("name the key of these parcels in the project file: parcels: { key: … }");
    }
    Seal seal = new Seal(key.get(), manifest.sealed().get().id());
    byte[] text = zip.getInputStream(zip.getEntry(ParcelSink.MANIFEST)).readAllBytes();
    if (!manifest.sealed().get().key().equals(key.get().fingerprint())) {
      throw Problem.of(Failure.PARCEL_KEY, "this parcel is sealed with another key")
          .at(file.toString());
    }
    if (!Manifest.isSealed(text, seal)) {
      throw Manifest.damaged(file.toString(), "its manifest was not written by who has the key");
    }
    return Optional.of(seal);
  }

  private static ZipFile zip(Path file) {
    try {
      return new ZipFile(file.toFile());
    } catch (NoSuchFileException | FileNotFoundException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "there is no such parcel").at(file.toString());
    } catch (ZipException e) {
      if (!Files.isRegularFile(file) || !begins(file)) {
        throw Problem.of(Failure.PARCEL_DAMAGED, "this is no parcel")
            .at(file.toString())
            .remedy("name a file that yemble pack has written; yemble shelf lists them");
      }
      throw Problem.of(Failure.PARCEL_CUT, "this parcel is cut short")
          .at(file.toString())
          .because("it begins as one, and its end is missing");
    } catch (IOException e) {
      // A file that can be read, and in which something leads nowhere.
      throw begins(file)
          ? Manifest.damaged(file.toString(), "its directory cannot be read").causedBy(e)
          : unreadable(file, e);
    }
  }

  private static boolean begins(Path file) {
    try (InputStream in = Files.newInputStream(file)) {
      return Arrays.equals(in.readNBytes(ZIP.length), ZIP);
    } catch (IOException e) {
      return false;
    }
  }

  private static Problem unreadable(Path file, IOException e) {
    return Problem.of(Failure.FILE_UNREADABLE, "the parcel cannot be read")
        .at(file.toString())
        .causedBy(e);
  }

  private static Manifest manifest(Path file, ZipFile zip) throws IOException {
    ZipEntry entry = zip.getEntry(ParcelSink.MANIFEST);
    if (entry == null) {
      throw Problem.of(Failure.PARCEL_DAMAGED, "this is no parcel")
          .at(file.toString())
          .because("it has no manifest")
          .remedy("name a file that yemble pack has written; yemble shelf lists them");
    }
    try (InputStream in = zip.getInputStream(entry)) {
      return Manifest.of(in.readAllBytes(), file.toString());
    } catch (ZipException | EOFException e) {
      throw Manifest.damaged(file.toString(), "its manifest cannot be unpacked");
    }
  }

  private static void check(Path file, ZipFile zip, Manifest manifest) throws IOException {
    byte[] buffer = new byte[1 << 16];
    for (Manifest.Part part : manifest.parts()) {
      ZipEntry entry = zip.getEntry(part.name());
      if (entry == null) {
        throw Manifest.damaged(file.toString(), "a part is missing: " + part.name());
      }
      MessageDigest digest = Manifest.sha256();
      long bytes = 0;
      try (InputStream in = new DigestInputStream(zip.getInputStream(entry), digest)) {
        for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
          bytes += read;
        }
      } catch (ZipException | EOFException e) {
        throw Manifest.damaged(file.toString(), "a part cannot be unpacked: " + part.name());
      }
      boolean same =
          bytes == part.bytes() && HexFormat.of().formatHex(digest.digest()).equals(part.sha256());
      if (!same) {
        throw Manifest.damaged(
            file.toString(), "a part is not what its digest says: " + part.name());
      }
    }
    if (zip.size() != manifest.parts().size() + 1) {
      throw Manifest.damaged(file.toString(), "something lies in it that its manifest lacks");
    }
  }

  /** The file's name. */
  public String name() {
    return file.getFileName().toString();
  }

  /** What the parcel says of itself. */
  public Manifest manifest() {
    return manifest;
  }

  @Override
  public String description() {
    return "parcel " + file;
  }

  @Override
  public Origin origin() {
    return manifest == null ? Origin.NONE : manifest.origin();
  }

  @Override
  public Schema schema() {
    return structure.schema();
  }

  @Override
  public Outline outline() {
    return structure.outline();
  }

  @Override
  public Map<TableName, Long> counters() {
    return structure.counters();
  }

  @Override
  public Optional<List<SequencePosition>> sequences() {
    return structure.sequences();
  }

  @Override
  public boolean comparesKeys() {
    return false;
  }

  @Override
  public long count(Table table) {
    Manifest.Rows rows = tables.get(table.name());
    return rows == null ? 0 : rows.rows();
  }

  @Override
  public RowSet all(Table table) {
    return RowSet.all(
        count(table),
        () -> {
          RowSet all = new RowSet();
          rows(table, "", List.of(), (row, values) -> all.add(row));
          return all;
        });
  }

  @Override
  public void rows(Table table, RowSet rows, List<Column> columns, RowVisitor visitor) {
    rows(table, "", columns, rows.size() == count(table) ? visitor : visitor.within(rows));
  }

  @Override
  public void rows(Table table, String condition, List<Column> columns, RowVisitor visitor) {
    if (!condition.isEmpty()) {
      throw unasked();
    }
    Manifest.Rows part = tables.get(table.name());
    if (part == null) {
      return;
    }
    List<Column> written = structure.schema().table(table.name()).written();
    int[] at = columns.stream().mapToInt(c -> position(written, c.name())).toArray();
    try (InputStream in = new BufferedInputStream(part(zip, seal, part.part()), 1 << 16);
        ReadAhead rows = new ReadAhead(new RowText.Reader(in), written.size())) {
      rows.visit(at, visitor);
    } catch (IOException | IllegalArgumentException e) {
      throw Manifest.damaged(file.toString(), "rows of " + table.name() + " cannot be read")
          .causedBy(e);
    }
  }

  @Override
  public void packed(Table table, Visitor visitor) {
    Manifest.Rows part = tables.get(table.name());
    if (part == null) {
      return;
    }
    int[] ends = new int[structure.schema().table(table.name()).written().size() + 1];
    try (InputStream in = new BufferedInputStream(part(zip, seal, part.part()), 1 << 16)) {
      RowText.Reader lines = new RowText.Reader(in);
      while (lines.next(ends)) {
        visitor.row(lines.line(), ends);
      }
    } catch (IOException | IllegalArgumentException e) {
      throw Manifest.damaged(file.toString(), "rows of " + table.name() + " cannot be read")
          .causedBy(e);
    }
  }

  @Override
  public <T> Optional<T> as(Class<T> form) {
    return form.isInstance(this) && form != Reader.class
        ? Optional.of(form.cast(this))
        : Optional.empty();
  }

  private static int position(List<Column> columns, String name) {
    for (int i = 0; i < columns.size(); i++) {
      if (columns.get(i).name().equals(name)) {
        return i;
      }
    }
    throw new IllegalArgumentException("no such column is written");
  }

  private static UnsupportedOperationException unasked() {
    return new UnsupportedOperationException("a parcel has no database that could be asked");
  }

  @Override
  public void check(Table table, String condition) {
    throw unasked();
  }

  @Override
  public RowSet matching(Table table, Condition condition) {
    throw unasked();
  }

  @Override
  public OptionalLong find(Table table, List<String> key) {
    throw unasked();
  }

  @Override
  public void sample(Table table, List<Column> columns, int most, RowVisitor visitor) {
    throw unasked();
  }

  @Override
  public void parents(Link link, RowSet children, ParentVisitor visitor) {
    throw unasked();
  }

  @Override
  public void children(
      Link link, RowSet parents, String condition, List<Column> columns, ChildVisitor visitor) {
    throw unasked();
  }

  @Override
  public void broken(Link link, LongConsumer visitor) {
    throw unasked();
  }

  @Override
  public long duplicates(Table table, List<String> columns) {
    throw unasked();
  }

  @Override
  public void close() {
    try {
      zip.close();
    } catch (IOException e) {
      throw unreadable(file, e);
    }
  }
}
