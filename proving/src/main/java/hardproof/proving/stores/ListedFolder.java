package hardproof.proving.stores;

import hardproof.proving.archives.ArchiveEntry.Kind;
import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.names.EntryName;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** An artifact that is a folder on a disk, listed once. */
final class ListedFolder implements ArtifactStore.Folder {
  private final String place;
  private final Path folder;
  private final List<String> files = new ArrayList<>();
  private final List<String> folders = new ArrayList<>();
  private final List<SpecialEntry> specials = new ArrayList<>();

  /** What has a name that is no UTF-8: by text alone they could not be found again. */
  private final Map<String, Path> odd = new HashMap<>();

  ListedFolder(String place, Path folder) throws IOException {
    this.place = place;
    this.folder = folder;
    String separator = folder.getFileSystem().getSeparator();
    int above = folder.toString().length() + separator.length();
    Files.walkFileTree(folder, new SimpleFileVisitor<>() {
      @Override
      public FileVisitResult preVisitDirectory(Path path, BasicFileAttributes a) {
        if (!path.equals(folder)) {
          folders.add(name(path, above, separator));
        }
        return FileVisitResult.CONTINUE;
      }

      @Override
      public FileVisitResult visitFile(Path file, BasicFileAttributes a) throws IOException {
        String name = name(file, above, separator);
        if (a.isRegularFile()) {
          files.add(name);
        } else {
          special(name, file, a);
        }
        return FileVisitResult.CONTINUE;
      }
    });
    Collections.sort(files);
    Collections.sort(folders);
  }

  private String name(Path path, int above, String separator) {
    String name = path.toString().substring(above).replace(separator, "/");
    if (name.indexOf('\ufffd') >= 0) {
      name = bytewise(path);
      odd.put(name, path);
    }
    return name;
  }

  /** The address of a path keeps its bytes, which its text does not. */
  private String bytewise(Path file) {
    return EntryName.of(bytes(file)).substring(EntryName.of(bytes(folder)).length() + 1);
  }

  private static byte[] bytes(Path path) {
    String raw = URI.create(path.toUri().toString()).getRawPath();
    java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
    for (int i = 0; i < raw.length(); i++) {
      if (raw.charAt(i) == '%') {
        out.write(Integer.parseInt(raw.substring(i + 1, i + 3), 16));
        i += 2;
      } else {
        out.write(raw.charAt(i));
      }
    }
    String text = out.toString(java.nio.charset.StandardCharsets.ISO_8859_1);
    int end = text.endsWith("/") ? out.size() - 1 : out.size();
    return java.util.Arrays.copyOf(out.toByteArray(), end);
  }

  private void special(String name, Path file, BasicFileAttributes a) throws IOException {
    if (a.isSymbolicLink()) {
      String target = Files.readSymbolicLink(file).toString();
      specials.add(
          new SpecialEntry(name, Kind.LINK, target, null, a.lastModifiedTime().toInstant()));
      return;
    }
    int type = (int) Files.getAttribute(file, "unix:mode", LinkOption.NOFOLLOW_LINKS) & 0170000;
    long numbers = (long) Files.getAttribute(file, "unix:rdev", LinkOption.NOFOLLOW_LINKS);
    Kind kind = kindOf(type);
    if (kind != null) {
      addDevice(name, a, numbers, kind);
    }
  }

  private static Kind kindOf(int type) {
    Kind kind = switch (type) {
      case 0010000 -> Kind.PIPE;
      case 0020000 -> Kind.CHARACTER_DEVICE;
      case 0060000 -> Kind.BLOCK_DEVICE;
      // A socket lives as long as who listens on it; no archive holds one.
      default -> null;
    };
    return kind;
  }

  private void addDevice(String name, BasicFileAttributes a, long numbers, Kind kind) {
    String device = kind == Kind.PIPE ? null : (numbers >> 8 & 0xfff) + "," + (numbers & 0xff);
    specials.add(new SpecialEntry(name, kind, device, null, a.lastModifiedTime().toInstant()));
  }

  @Override
  public List<String> files() {
    return files;
  }

  @Override
  public List<String> folders() {
    return folders;
  }

  @Override
  public ArtifactStore.Attributes attributes(String file) throws ArtifactUnreadable {
    Path path = path(file);
    try {
      boolean posix = path.getFileSystem().supportedFileAttributeViews().contains("unix");
      Integer mode = posix
          ? (int) Files.getAttribute(path, "unix:mode", LinkOption.NOFOLLOW_LINKS) & 07777
          : null;
      return new ArtifactStore.Attributes(
          mode, Files.getLastModifiedTime(path, LinkOption.NOFOLLOW_LINKS).toInstant());
    } catch (IOException e) {
      throw new ArtifactUnreadable(
          place + "/" + EntryName.shown(file), "can't be read: " + e.getMessage(), e);
    }
  }

  private Path path(String file) {
    return odd.containsKey(file) ? odd.get(file) : folder.resolve(file);
  }

  @Override
  public List<SpecialEntry> specials() {
    return specials;
  }

  @Override
  public InputStream open(String file) throws ArtifactUnreadable {
    String whole = place + "/" + EntryName.shown(file);
    try {
      return new Reading(whole, Files.newInputStream(path(file), LinkOption.NOFOLLOW_LINKS));
    } catch (IOException e) {
      throw new ArtifactUnreadable(whole, "can't be opened: " + e.getMessage(), e);
    }
  }
}
