import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Collections;
import java.util.List;
import java.util.jar.JarEntry;
import java.util.jar.JarFile;
import java.util.jar.JarOutputStream;
import java.util.jar.Manifest;
import java.util.stream.Stream;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.Opcodes;

/**
 * Rewrites the classes of jars that are in a format older than Java 6 into that of Java 8, and leaves
 * out signatures, which would no longer be right. The JVM leaves classes that are older or signed out
 * of its class-data archive, and loading them by hand takes longer than most of Fiador's answers. Run
 * by the build: {@code java -cp asm.jar UpgradeClasses.java FOLDER NAME...}; each jar in the folder whose
 * name begins with one of the names.
 */
final class UpgradeClasses {
  private static final int JAVA_6 = 50;

  public static void main(String[] args) throws IOException {
    List<String> names = List.of(args).subList(1, args.length);
    try (Stream<Path> all = Files.list(Path.of(args[0]))) {
      List<Path> jars = all.filter(path -> path.toString().endsWith(".jar")).sorted().toList();
      for (Path jar : jars) {
        String name = jar.getFileName().toString();
        if (names.stream().anyMatch(name::startsWith)) {
          upgrade(jar, jars);
        }
      }
    }
  }

  private static boolean isSignature(String name) {
    return name.startsWith("META-INF/") && name.matches(".*\\.(SF|RSA|DSA|EC)");
  }

  /** What a manifest says of all of the jar, without the digests of its files. */
  private static byte[] withoutDigests(byte[] manifest) throws IOException {
    Manifest all = new Manifest(new ByteArrayInputStream(manifest));
    Manifest main = new Manifest();
    main.getMainAttributes().putAll(all.getMainAttributes());
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    main.write(out);
    return out.toByteArray();
  }

  private static void upgrade(Path jar, List<Path> together) throws IOException {
    Path upgraded = jar.resolveSibling(jar.getFileName() + ".upgraded");
    URL[] urls = new URL[together.size()];
    for (int i = 0; i < urls.length; i++) {
      urls[i] = together.get(i).toUri().toURL();
    }
    try (JarFile in = new JarFile(jar.toFile());
        URLClassLoader loader = new URLClassLoader(urls);
        JarOutputStream out = new JarOutputStream(Files.newOutputStream(upgraded))) {
      for (JarEntry entry : Collections.list(in.entries())) {
        boolean left = entry.getName().startsWith("META-INF/versions/");
        if (entry.isDirectory() || left || isSignature(entry.getName())) {
          continue;
        }
        byte[] bytes = in.getInputStream(entry).readAllBytes();
        if (entry.getName().equals(JarFile.MANIFEST_NAME)) {
          bytes = withoutDigests(bytes);
        }
        boolean old = entry.getName().endsWith(".class") && bytes[7] < JAVA_6;
        JarEntry same = new JarEntry(entry.getName());
        // as old as it was, so that the same sources give the same archive
        same.setTimeLocal(entry.getTimeLocal());
        out.putNextEntry(same);
        out.write(old ? upgraded(bytes, loader) : bytes);
        out.closeEntry();
      }
    }
    Files.move(upgraded, jar, StandardCopyOption.REPLACE_EXISTING);
  }

  private static byte[] upgraded(byte[] bytes, ClassLoader loader) {
    ClassReader reader = new ClassReader(bytes);
    ClassWriter writer =
        new ClassWriter(ClassWriter.COMPUTE_FRAMES) {
          @Override
          protected ClassLoader getClassLoader() {
            return loader;
          }

          @Override
          protected String getCommonSuperClass(String a, String b) {
            try {
              return super.getCommonSuperClass(a, b);
            } catch (TypeNotPresentException | NoClassDefFoundError optional) {
              return "java/lang/Object"; // of an optional library that is not there
            }
          }
        };
    reader.accept(
        new org.objectweb.asm.ClassVisitor(Opcodes.ASM9, writer) {
          @Override
          public void visit(
              int version, int access, String name, String signature, String parent, String[] also) {
            super.visit(Opcodes.V1_8, access, name, signature, parent, also);
          }
        },
        ClassReader.SKIP_FRAMES);
    return writer.toByteArray();
  }
}
