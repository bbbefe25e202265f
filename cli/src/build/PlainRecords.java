import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.jar.JarEntry;
import java.util.jar.JarFile;
import java.util.jar.JarOutputStream;
import java.util.stream.Stream;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassVisitor;
import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.Handle;
import org.objectweb.asm.Label;
import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;
import org.objectweb.asm.RecordComponentVisitor;
import org.objectweb.asm.Type;

/**
 * Writes out equals and hashCode of records. The compiler leaves them to be put together at the
 * first call, which takes a few milliseconds for each record at each start, and no class-data
 * archive keeps what comes of it. What is written out gives the same results, the hash too. Run by
 * the build: {@code java -cp asm.jar PlainRecords.java JAR_OR_FOLDER...}; of a folder the jars that
 * are Fiador's own.
 */
final class PlainRecords {
  private static final String MADE_LATER = "java/lang/runtime/ObjectMethods";
  private static final Set<String> WRITTEN_OUT = Set.of("equals", "hashCode");

  public static void main(String[] args) throws IOException {
    for (String arg : args) {
      Path path = Path.of(arg);
      if (!Files.isDirectory(path)) {
        rewrite(path);
        continue;
      }
      try (Stream<Path> inside = Files.list(path)) {
        for (Path jar : inside.filter(PlainRecords::isOwn).sorted().toList()) {
          rewrite(jar);
        }
      }
    }
  }

  private static boolean isOwn(Path jar) {
    return jar.getFileName().toString().matches("fiador-.*\\.jar");
  }

  private static void rewrite(Path jar) throws IOException {
    Path rewritten = jar.resolveSibling(jar.getFileName() + ".rewritten");
    try (JarFile in = new JarFile(jar.toFile());
        JarOutputStream out = new JarOutputStream(Files.newOutputStream(rewritten))) {
      for (JarEntry entry : Collections.list(in.entries())) {
        JarEntry same = new JarEntry(entry.getName());
        // as old as it was, so that the same sources give the same archive
        same.setTimeLocal(entry.getTimeLocal());
        out.putNextEntry(same);
        if (!entry.isDirectory()) {
          byte[] bytes = in.getInputStream(entry).readAllBytes();
          out.write(entry.getName().endsWith(".class") ? plain(bytes) : bytes);
        }
        out.closeEntry();
      }
    }
    Files.move(rewritten, jar, StandardCopyOption.REPLACE_EXISTING);
  }

  private static byte[] plain(byte[] bytes) {
    ClassReader reader = new ClassReader(bytes);
    if (!"java/lang/Record".equals(reader.getSuperName())) {
      return bytes;
    }
    Set<String> madeLater = madeLater(reader);
    if (madeLater.isEmpty()) {
      return bytes;
    }
    ClassWriter writer = new ClassWriter(reader, ClassWriter.COMPUTE_MAXS);
    reader.accept(new Rewriting(writer, reader.getClassName(), madeLater), 0);
    byte[] written = writer.toByteArray();
    if (!madeLater(new ClassReader(written)).isEmpty()) {
      throw new IllegalStateException(reader.getClassName() + " could not be written out");
    }
    return written;
  }

  /** Which of the two are left to the first call; somebody may have written one by hand. */
  private static Set<String> madeLater(ClassReader reader) {
    Set<String> found = new HashSet<>();
    reader.accept(
        new ClassVisitor(Opcodes.ASM9) {
          @Override
          public MethodVisitor visitMethod(
              int access, String name, String type, String signature, String[] thrown) {
            return new MethodVisitor(Opcodes.ASM9) {
              @Override
              public void visitInvokeDynamicInsn(
                  String called, String how, Handle by, Object... arguments) {
                if (by.getOwner().equals(MADE_LATER) && WRITTEN_OUT.contains(name)) {
                  found.add(name);
                }
              }
            };
          }
        },
        ClassReader.SKIP_FRAMES);
    return found;
  }

  /** A component: its name and type. */
  private record Part(String name, Type type) {}

  private static final class Rewriting extends ClassVisitor {
    private final String owner;
    private final Set<String> methods;
    private final List<Part> parts = new ArrayList<>();

    Rewriting(ClassVisitor to, String owner, Set<String> methods) {
      super(Opcodes.ASM9, to);
      this.owner = owner;
      this.methods = methods;
    }

    @Override
    public RecordComponentVisitor visitRecordComponent(
        String name, String type, String signature) {
      parts.add(new Part(name, Type.getType(type)));
      return super.visitRecordComponent(name, type, signature);
    }

    @Override
    public MethodVisitor visitMethod(
        int access, String name, String type, String signature, String[] thrown) {
      MethodVisitor code = super.visitMethod(access, name, type, signature, thrown);
      boolean equals = name.equals("equals") && type.equals("(Ljava/lang/Object;)Z");
      boolean hash = name.equals("hashCode") && type.equals("()I");
      if (!methods.contains(name) || !equals && !hash) {
        return code;
      }
      code.visitCode();
      if (equals) {
        equalsOf(code);
      } else {
        hashOf(code);
      }
      code.visitMaxs(0, 0);
      code.visitEnd();
      return null;
    }

    /** {@code 31 * so far + hash}, as the one made later counts. */
    private void hashOf(MethodVisitor code) {
      code.visitInsn(Opcodes.ICONST_0);
      for (Part part : parts) {
        code.visitIntInsn(Opcodes.BIPUSH, 31);
        code.visitInsn(Opcodes.IMUL);
        field(code, 0, part);
        String wrapper = wrapper(part.type());
        if (wrapper == null) {
          call(code, "java/util/Objects", "hashCode", "(Ljava/lang/Object;)I");
        } else {
          call(code, wrapper, "hashCode", "(" + part.type().getDescriptor() + ")I");
        }
        code.visitInsn(Opcodes.IADD);
      }
      code.visitInsn(Opcodes.IRETURN);
    }

    private void equalsOf(MethodVisitor code) {
      Label no = new Label();
      code.visitVarInsn(Opcodes.ALOAD, 1);
      code.visitTypeInsn(Opcodes.INSTANCEOF, owner);
      code.visitJumpInsn(Opcodes.IFEQ, no);
      for (Part part : parts) {
        field(code, 0, part);
        field(code, 1, part);
        String wrapper = wrapper(part.type());
        if (wrapper == null) {
          call(code, "java/util/Objects", "equals", "(Ljava/lang/Object;Ljava/lang/Object;)Z");
          code.visitJumpInsn(Opcodes.IFEQ, no);
        } else {
          String one = part.type().getDescriptor();
          call(code, wrapper, "compare", "(" + one + one + ")I");
          code.visitJumpInsn(Opcodes.IFNE, no);
        }
      }
      code.visitInsn(Opcodes.ICONST_1);
      code.visitInsn(Opcodes.IRETURN);
      code.visitLabel(no);
      code.visitFrame(Opcodes.F_SAME, 0, null, 0, null);
      code.visitInsn(Opcodes.ICONST_0);
      code.visitInsn(Opcodes.IRETURN);
    }

    private void field(MethodVisitor code, int of, Part part) {
      code.visitVarInsn(Opcodes.ALOAD, of);
      if (of != 0) {
        code.visitTypeInsn(Opcodes.CHECKCAST, owner);
      }
      code.visitFieldInsn(Opcodes.GETFIELD, owner, part.name(), part.type().getDescriptor());
    }

    private static void call(MethodVisitor code, String in, String method, String type) {
      code.visitMethodInsn(Opcodes.INVOKESTATIC, in, method, type, false);
    }

    /** The class that compares and hashes a primitive; null for all else. */
    private static String wrapper(Type type) {
      return switch (type.getSort()) {
        case Type.BOOLEAN -> "java/lang/Boolean";
        case Type.BYTE -> "java/lang/Byte";
        case Type.CHAR -> "java/lang/Character";
        case Type.SHORT -> "java/lang/Short";
        case Type.INT -> "java/lang/Integer";
        case Type.LONG -> "java/lang/Long";
        case Type.FLOAT -> "java/lang/Float";
        case Type.DOUBLE -> "java/lang/Double";
        default -> null;
      };
    }
  }
}
