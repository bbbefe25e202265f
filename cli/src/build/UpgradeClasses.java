import java.io.IOException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Collections;
import java.util.jar.JarEntry;
import java.util.jar.JarFile;
import java.util.jar.JarOutputStream;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.Opcodes;

/**
 * Rewrites the classes of a jar that are in a format older than Java 6 into that of Java 8. The JVM
 * leaves older ones out of its class-data archive, and loading them by hand takes longer than most of
 * Fiador's answers. Run by the build: {@code java -cp asm.jar UpgradeClasses.java JAR}.
 */
final class UpgradeClasses {
  private static final int JAVA_6 = 50;

  public static void main(String[] args) throws IOException {
    Path jar = Path.of(args[0]);
    Path upgraded = Path.of(args[0] + ".upgraded");
    URL[] urls = {jar.toUri().toURL()};
    try (JarFile in = new JarFile(jar.toFile());
        URLClassLoader loader = new URLClassLoader(urls);
        JarOutputStream out = new JarOutputStream(Files.newOutputStream(upgraded))) {
      for (JarEntry entry : Collections.list(in.entries())) {
        if (entry.isDirectory() || entry.getName().startsWith("META-INF/versions/")) {
          continue;
        }
        byte[] bytes = in.getInputStream(entry).readAllBytes();
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
            } catch (TypeNotPresentException optional) {
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
