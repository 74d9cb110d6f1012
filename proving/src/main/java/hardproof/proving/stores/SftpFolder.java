package hardproof.proving.stores;

import hardproof.proving.archives.ArchiveEntry.Kind;
import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import hardproof.proving.stores.ArtifactStore.Attributes;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.apache.sshd.sftp.client.SftpClient;
import org.apache.sshd.sftp.client.SftpClient.DirEntry;
import org.jspecify.annotations.Nullable;

/** A folder on a host, listed once. */
final class SftpFolder implements ArtifactStore.Folder {
  private static final int TYPE = 0170000;
  private static final int PIPE = 0010000;
  private static final int PERMISSIONS = 07777;

  private final SftpStore store;
  private final String place;
  private final List<String> files = new ArrayList<>();
  private final List<String> folders = new ArrayList<>();
  private final List<SpecialEntry> specials = new ArrayList<>();
  private final Map<String, Attributes> attributes = new HashMap<>();

  SftpFolder(SftpStore store, String place) {
    this.store = store;
    this.place = place;
  }

  /**
   * @param target where a link leads; null for what is none
   */
  void add(String path, DirEntry entry, @Nullable String target) {
    SftpClient.Attributes told = entry.getAttributes();
    if (told.isRegularFile()) {
      files.add(path);
      attributes.put(
          path, new Attributes(told.getPermissions() & PERMISSIONS, SftpStore.modified(told)));
    } else if (told.isDirectory()) {
      folders.add(path);
    } else if (told.isSymbolicLink()) {
      specials.add(new SpecialEntry(path, Kind.LINK, target, null, SftpStore.modified(told)));
    } else if ((told.getPermissions() & TYPE) == PIPE) {
      specials.add(new SpecialEntry(path, Kind.PIPE, null, null, SftpStore.modified(told)));
    }
  }

  SftpFolder sorted() {
    Collections.sort(files);
    Collections.sort(folders);
    return this;
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
  public Attributes attributes(String file) throws ArtifactUnreadable {
    Attributes told = attributes.get(file);
    if (told == null) {
      throw new ArtifactUnreadable(place + "/" + file, "is not on the store", null);
    }
    return told;
  }

  @Override
  public List<SpecialEntry> specials() {
    return specials;
  }

  @Override
  public InputStream open(String file) throws ArtifactUnreadable {
    return store.open(place + "/" + file);
  }
}
