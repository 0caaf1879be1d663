package weftex.store.file;

import java.io.IOException;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import weftex.store.ssh.Sftp;

/** Makes folders over SFTP, with the owner and the mode that their neighbours have. */
final class FolderMaking {

  private static final int FOLDER_MODE = 0755;

  private final FarLine far;
  private final String root;

  FolderMaking(FarLine far, String root) {
    this.far = far;
    this.root = root;
  }

  final Set<String> present = new HashSet<>();

  /** Whose new files are, once that was asked. */
  private Optional<Long> givenTo = Optional.empty();

  /** Only an administrator may give files away; the site can still read it by its mode. */
  void own(String place, Optional<Sftp.Attributes> like) throws IOException {
    if (like.isEmpty() || givenTo.filter(given -> given == whose(like.get())).isPresent()) {
      return;
    }
    // All that is made here belongs to one user.
    givenTo = far.ask(s -> s.find(place)).map(FolderMaking::whose);
    if (givenTo.isPresent() && givenTo.get() != whose(like.get())) {
      try {
        far.line().owner(place, like.get().owner(), like.get().group());
      } catch (Sftp.Cut e) {
        throw e;
      } catch (IOException e) {
        return;
      }
    }
  }

  static long whose(Sftp.Attributes attributes) {
    return ((long) attributes.owner() << 32) + attributes.group();
  }

  void makeFolders(String folder) throws IOException {
    if (folder.isEmpty() || present.contains(folder)) {
      return;
    }
    makeFoldersAnew(folder);
    present.add(folder);
  }

  void makeFoldersAnew(String folder) throws IOException {
    if (far.ask(s -> s.follow(root + "/" + folder)).isPresent()) {
      return;
    }
    makeFolders(SftpFolder.parent(folder));
    String above =
        SftpFolder.parent(folder).isEmpty() ? root : root + "/" + SftpFolder.parent(folder);
    Optional<Sftp.Attributes> like = far.ask(s -> s.follow(above));
    int mode = like.map(Sftp.Attributes::mode).orElse(FOLDER_MODE);
    far.ask(
        s -> {
          try {
            s.makeFolder(root + "/" + folder, mode);
            s.mode(root + "/" + folder, mode);
          } catch (IOException e) {
            // Another hand was quicker, or the line was cut behind it.
            if (s.find(root + "/" + folder).isEmpty()) {
              throw e;
            }
          }
          return true;
        });
    own(root + "/" + folder, like);
  }
}
