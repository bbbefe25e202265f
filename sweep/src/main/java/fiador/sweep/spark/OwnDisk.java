package fiador.sweep.spark;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.attribute.PosixFilePermission;
import java.util.EnumSet;
import java.util.Set;
import org.apache.hadoop.fs.Path;
import org.apache.hadoop.fs.RawLocalFileSystem;
import org.apache.hadoop.fs.permission.FsAction;
import org.apache.hadoop.fs.permission.FsPermission;

/**
 * The disks of this machine. Hadoop starts a program to say who may read a file, for each file and
 * folder it makes, which takes longer than writing it; Java can do that itself.
 */
public final class OwnDisk extends RawLocalFileSystem {
  @Override
  public void setPermission(Path path, FsPermission permission) throws IOException {
    Set<PosixFilePermission> set = EnumSet.noneOf(PosixFilePermission.class);
    add(
        set,
        permission.getUserAction(),
        PosixFilePermission.OWNER_READ,
        PosixFilePermission.OWNER_WRITE,
        PosixFilePermission.OWNER_EXECUTE);
    add(
        set,
        permission.getGroupAction(),
        PosixFilePermission.GROUP_READ,
        PosixFilePermission.GROUP_WRITE,
        PosixFilePermission.GROUP_EXECUTE);
    add(
        set,
        permission.getOtherAction(),
        PosixFilePermission.OTHERS_READ,
        PosixFilePermission.OTHERS_WRITE,
        PosixFilePermission.OTHERS_EXECUTE);
    try {
      Files.setPosixFilePermissions(pathToFile(path).toPath(), set);
    } catch (UnsupportedOperationException other) {
      super.setPermission(path, permission);
    }
  }

  private static void add(
      Set<PosixFilePermission> set,
      FsAction action,
      PosixFilePermission read,
      PosixFilePermission write,
      PosixFilePermission execute) {
    if (action.implies(FsAction.READ)) {
      set.add(read);
    }
    if (action.implies(FsAction.WRITE)) {
      set.add(write);
    }
    if (action.implies(FsAction.EXECUTE)) {
      set.add(execute);
    }
  }
}
