package yemble.core.parcel;

import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import yemble.core.crypto.SecretKey;
import yemble.core.file.WrittenFile;
import yemble.core.mark.Loaded;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Environment;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Outline;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.Engine;
import yemble.core.store.Load;
import yemble.core.store.Maskers;
import yemble.core.store.Origin;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;

/**
 * Writes a parcel: into a file beside, which has no manifest and so is no parcel; the manifest
 * comes in, and the file gets its name, once everything has been proved.
 */
public final class ParcelSink implements Load {
  private static final int AT_ONCE = 1_000;

  /** Half the time of the usual one, and 3 % larger. */
  static final int LEVEL = 4;

  static final String MANIFEST = "manifest.json";
  static final String STRUCTURE = "structure.json";

  private final WrittenFile.Stream file;
  private final Contents contents;
  private final Outline outline;
  private final ZipOutputStream zip;
  private final Optional<Seal> seal;
  private final List<Manifest.Part> parts = new ArrayList<>();
  private final Map<TableName, Manifest.Rows> tables = new LinkedHashMap<>();
  private final Map<String, String> masked = new LinkedHashMap<>();
  private final List<Manifest.Proof> proof = new ArrayList<>();
  private PackedStructure structure;
  private Reader reader;
  private boolean closed;

  /**
   * What is told of where the rows come from.
   *
   * @param source the name that the project has for the database
   */
  public record Contents(
      String source, Environment environment, Engine.Family family, Origin origin) {}

  /**
   * @param to the file that there will be
   * @param outline of the source
   * @param key that the parts are sealed with; empty for a parcel that anybody can read
   */
  public ParcelSink(Path to, Contents contents, Outline outline, Optional<SecretKey> key) {
    this.seal = key.map(Seal::of);
    this.contents = contents;
    this.outline = outline;
    try {
      file = WrittenFile.stream(to);
      zip = new ZipOutputStream(new BufferedOutputStream(file.out(), 1 << 16));
      // Parts that are sealed are packed before.
      zip.setLevel(seal.isPresent() ? Deflater.NO_COMPRESSION : LEVEL);
    } catch (IOException e) {
      throw failed(to, e);
    }
  }

  private static Problem failed(Path to, IOException e) {
    return Problem.of(Failure.FILE_UNWRITABLE, "the parcel cannot be written")
        .at(to.toString())
        .because("the system refuses it")
        .causedBy(e);
  }

  /** A part that is being written. */
  private final class Part implements AutoCloseable {
    private final String name;
    private final MessageDigest digest = Manifest.sha256();
    private final HandedOn out;
    private long bytes;

    Part(String name) throws IOException {
      this.name = name;
      zip.putNextEntry(new ZipEntry(name));
      OutputStream stored =
          new FilterOutputStream(new DigestOutputStream(zip, digest)) {
            @Override
            public void write(int b) throws IOException {
              bytes++;
              out.write(b);
            }

            @Override
            public void write(byte[] b, int off, int len) throws IOException {
              bytes += len;
              out.write(b, off, len);
            }

            @Override
            public void close() throws IOException {
              out.flush(); // The archive goes on.
            }
          };
      this.out = new HandedOn(seal.isPresent() ? seal.get().closing(stored, name) : stored, name);
    }

    HandedOn out() {
      return out;
    }

    @Override
    public void close() throws IOException {
      out.close();
      zip.closeEntry();
      parts.add(new Manifest.Part(name, bytes, HexFormat.of().formatHex(digest.digest())));
    }
  }

  /** The next part of rows. */
  private String rowsName() {
    return String.format(Locale.ROOT, "rows/%05d", tables.size() + 1);
  }

  /** One thread reads, as many as there are processors mask and write, one packs. */
  @Override
  public boolean copy(
      RowSource source,
      Table table,
      RowSet rows,
      Supplier<List<CellChange>> changes,
      LongConsumer progress) {
    if (rows.size() <= AT_ONCE || changes.get().stream().anyMatch(CellChange::needsRows)) {
      return false;
    }
    String name = rowsName();
    try (Part part = new Part(name);
        Maskers maskers = new Maskers(changes)) {
      Batch[] batch = {new Batch()};
      source.rows(
          table,
          rows,
          table.written(),
          (row, values) -> {
            batch[0].add(row, values);
            if (batch[0].size == AT_ONCE) {
              hand(part, maskers, batch[0]);
              progress.accept(AT_ONCE);
              batch[0] = new Batch();
            }
          });
      hand(part, maskers, batch[0]);
      progress.accept(batch[0].size);
      tables.put(table.name(), new Manifest.Rows(name, rows.size()));
    } catch (IOException e) {
      throw failed(file.to(), e);
    }
    return true;
  }

  private void hand(Part part, Maskers maskers, Batch batch) {
    try {
      part.out().hand(maskers.mask(batch::masked));
    } catch (IOException e) {
      throw failed(file.to(), e);
    }
  }

  /** Rows that are masked together. */
  private static final class Batch {
    private final long[] numbers = new long[AT_ONCE];
    private final Object[][] rows = new Object[AT_ONCE][];
    private int size;

    void add(long row, Object[] values) {
      numbers[size] = row;
      rows[size++] = values.clone();
    }

    byte[] masked(CellChange[] changes) {
      ByteArrayOutputStream bytes = new ByteArrayOutputStream(size * 128);
      RowText.Writer text = new RowText.Writer(bytes);
      try {
        for (int row = 0; row < size; row++) {
          for (int i = 0; i < changes.length; i++) {
            rows[row][i] = changes[i].apply(numbers[row], rows[row][i]);
          }
          text.write(numbers[row], rows[row]);
          rows[row] = null;
        }
      } catch (IOException e) {
        throw new UncheckedIOException(e); // There is memory, or there is none.
      }
      return bytes.toByteArray();
    }
  }

  @Override
  public RowWriter rows(Table table) {
    String name = rowsName();
    try {
      Part part = new Part(name);
      RowText.Writer rows = new RowText.Writer(part.out());
      long[] written = new long[1];
      return new RowWriter() {
        @Override
        public void write(long row, Object[] values) {
          try {
            rows.write(row, values);
            written[0]++;
          } catch (IOException e) {
            throw failed(file.to(), e);
          }
        }

        @Override
        public void close() {
          tables.put(table.name(), new Manifest.Rows(name, written[0]));
          try {
            part.close();
          } catch (IOException e) {
            throw failed(file.to(), e);
          }
        }
      };
    } catch (IOException e) {
      throw failed(file.to(), e);
    }
  }

  @Override
  public void finish(Schema schema, Counting source) {
    structure = new PackedStructure(schema, outline, source.counters(), source.sequences());
    try {
      try (Part part = new Part(STRUCTURE)) {
        part.out().write(structure.toJson());
      }
      zip.close();
    } catch (IOException e) {
      throw failed(file.to(), e);
    }
  }

  @Override
  public Reader reader() {
    if (reader == null) {
      reader = ParcelReader.unproved(file.beside(), structure, Map.copyOf(tables), seal);
    }
    return reader;
  }

  /** Says what was masked, and what came of the proof, for the manifest. */
  public void proved(Map<String, String> columns, List<Manifest.Proof> findings) {
    masked.putAll(columns);
    proof.addAll(findings);
  }

  @Override
  public List<String> made() {
    return tables.keySet().stream().map(TableName::toString).toList();
  }

  @Override
  public void commit(Mark mark) {
    Loaded load = mark.loads().get(mark.loads().size() - 1);
    Manifest manifest =
        new Manifest(
            contents.source(),
            contents.environment(),
            contents.family(),
            contents.origin().remembered(),
            load,
            parts,
            tables,
            masked,
            proof,
            seal.map(by -> new Manifest.Sealed(by.id(), by.key().fingerprint())));
    closeReader();
    try {
      try (FileSystem inside = FileSystems.newFileSystem(file.beside(), Map.of())) {
        Files.write(inside.getPath(MANIFEST), manifest.toJson(seal));
      }
      file.commit();
    } catch (IOException e) {
      throw failed(file.to(), e);
    }
  }

  private void closeReader() {
    if (reader != null) {
      reader.close();
      reader = null;
    }
  }

  @Override
  public void close() {
    if (!closed) {
      closed = true;
      closeReader();
      try {
        zip.close();
      } catch (IOException e) {
        // Whatever came before says what is wrong; nothing of this file is kept.
      }
      try {
        file.close();
      } catch (IOException e) {
        throw failed(file.to(), e);
      }
    }
  }
}
