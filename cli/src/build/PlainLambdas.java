import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.jar.JarEntry;
import java.util.jar.JarFile;
import java.util.jar.JarOutputStream;
import java.util.stream.Stream;
import org.objectweb.asm.ClassReader;
import org.objectweb.asm.ClassVisitor;
import org.objectweb.asm.ClassWriter;
import org.objectweb.asm.Handle;
import org.objectweb.asm.MethodVisitor;
import org.objectweb.asm.Opcodes;
import org.objectweb.asm.Type;

/**
 * Writes out lambdas and method references as small classes. The compiler leaves them to be put
 * together at the first call, which takes a fifth of a millisecond each at each start even from a
 * class-data archive, and a command meets hundreds; a class from the archive takes a fifth of that.
 * Those that can be serialised or have several types stay as they are. Run by the build: {@code
 * java -cp asm.jar PlainLambdas.java JAR_OR_FOLDER...}; of a folder the jars that are Fiador's own.
 */
final class PlainLambdas {
  private static final String MADE_LATER = "java/lang/invoke/LambdaMetafactory";

  /** The first format in which classes of one nest may call each other's private methods. */
  private static final int NESTS = Opcodes.V11;

  private final Map<String, byte[]> classes;
  private final Map<String, byte[]> made = new TreeMap<>();

  /** By the host of a nest, which of the classes made are in it. */
  private final Map<String, List<String>> nests = new HashMap<>();

  private PlainLambdas(Map<String, byte[]> classes) {
    this.classes = classes;
  }

  public static void main(String[] args) throws IOException {
    for (String arg : args) {
      Path path = Path.of(arg);
      if (!Files.isDirectory(path)) {
        rewrite(path);
        continue;
      }
      try (Stream<Path> inside = Files.list(path)) {
        for (Path jar : inside.filter(PlainLambdas::isOwn).sorted().toList()) {
          rewrite(jar);
        }
      }
    }
  }

  private static boolean isOwn(Path jar) {
    return jar.getFileName().toString().matches("fiador-.*\\.jar");
  }

  private static void rewrite(Path jar) throws IOException {
    Map<String, byte[]> classes = new LinkedHashMap<>();
    Path rewritten = jar.resolveSibling(jar.getFileName() + ".rewritten");
    try (JarFile in = new JarFile(jar.toFile());
        JarOutputStream out = new JarOutputStream(Files.newOutputStream(rewritten))) {
      LocalDateTime time = null;
      for (JarEntry entry : Collections.list(in.entries())) {
        byte[] bytes = in.getInputStream(entry).readAllBytes();
        // as old as they were, so that the same sources give the same archive
        time = entry.getTimeLocal();
        if (entry.getName().endsWith(".class")) {
          classes.put(entry.getName(), bytes);
        } else {
          put(out, entry.getName(), time, bytes);
        }
      }
      Map<String, byte[]> plain = new PlainLambdas(classes).plain();
      for (Map.Entry<String, byte[]> each : plain.entrySet()) {
        put(out, each.getKey(), time, each.getValue());
      }
    }
    Files.move(rewritten, jar, StandardCopyOption.REPLACE_EXISTING);
  }

  private static void put(JarOutputStream out, String name, LocalDateTime time, byte[] bytes)
      throws IOException {
    JarEntry entry = new JarEntry(name);
    entry.setTimeLocal(time);
    out.putNextEntry(entry);
    out.write(bytes);
    out.closeEntry();
  }

  private Map<String, byte[]> plain() {
    Map<String, byte[]> all = new LinkedHashMap<>();
    classes.forEach((name, bytes) -> all.put(name, plain(bytes)));
    for (Map.Entry<String, List<String>> nest : nests.entrySet()) {
      String host = nest.getKey() + ".class";
      ClassReader reader = new ClassReader(all.get(host));
      ClassWriter writer = new ClassWriter(reader, 0);
      reader.accept(writer, 0);
      nest.getValue().forEach(writer::visitNestMember);
      all.put(host, writer.toByteArray());
    }
    made.forEach((name, bytes) -> all.put(name + ".class", bytes));
    return all;
  }

  private byte[] plain(byte[] bytes) {
    ClassReader reader = new ClassReader(bytes);
    ClassWriter writer = new ClassWriter(reader, 0);
    Rewriting rewriting = new Rewriting(writer);
    reader.accept(rewriting, 0);
    return rewriting.count == 0 ? bytes : writer.toByteArray();
  }

  /** Puts a call of what was made in the place of each lambda of a class. */
  private final class Rewriting extends ClassVisitor {
    private String owner;
    private String host;
    private int format;
    private int count;

    Rewriting(ClassVisitor to) {
      super(Opcodes.ASM9, to);
    }

    @Override
    public void visit(
        int version, int access, String name, String signature, String above, String[] types) {
      owner = name;
      host = name;
      format = version & 0xffff;
      super.visit(version, access, name, signature, above, types);
    }

    @Override
    public void visitNestHost(String name) {
      host = name;
      super.visitNestHost(name);
    }

    @Override
    public MethodVisitor visitMethod(
        int access, String name, String type, String signature, String[] thrown) {
      MethodVisitor code = super.visitMethod(access, name, type, signature, thrown);
      return new MethodVisitor(Opcodes.ASM9, code) {
        @Override
        public void visitInvokeDynamicInsn(
            String method, String how, Handle by, Object... arguments) {
          boolean lambda =
              by.getOwner().equals(MADE_LATER)
                  && by.getName().equals("metafactory")
                  && format >= NESTS
                  && isOpen((Handle) arguments[1]);
          if (!lambda) {
            super.visitInvokeDynamicInsn(method, how, by, arguments);
            return;
          }
          String made = make(method, Type.getMethodType(how), arguments);
          super.visitMethodInsn(Opcodes.INVOKESTATIC, made, "make", how, false);
        }
      };
    }

    /** A call of the class above would need the class itself. */
    private boolean isOpen(Handle called) {
      return called.getTag() != Opcodes.H_INVOKESPECIAL || called.getOwner().equals(owner);
    }

    private String make(String method, Type how, Object... arguments) {
      String name;
      do {
        name = owner + "$L" + ++count;
      } while (classes.containsKey(name + ".class"));
      Lambda lambda =
          new Lambda(
              name, method, how, (Type) arguments[0], (Handle) arguments[1], (Type) arguments[2]);
      made.put(name, lambda.write(format, host));
      nests.computeIfAbsent(host, none -> new ArrayList<>()).add(name);
      return name;
    }
  }

  /**
   * A class for one lambda.
   *
   * @param how from what it captures to the interface
   * @param seen the interface's method, erased
   * @param called what it stands for
   * @param meant the interface's method with the types it has here
   */
  private record Lambda(
      String name, String method, Type how, Type seen, Handle called, Type meant) {
    byte[] write(int format, String host) {
      ClassWriter out = new ClassWriter(ClassWriter.COMPUTE_MAXS);
      int access = Opcodes.ACC_FINAL | Opcodes.ACC_SUPER | Opcodes.ACC_SYNTHETIC;
      String[] types = {how.getReturnType().getInternalName()};
      out.visit(format, access, name, null, "java/lang/Object", types);
      out.visitNestHost(host);
      constructor(out);
      factory(out);
      body(out);
      out.visitEnd();
      return out.toByteArray();
    }

    private void constructor(ClassWriter out) {
      Type[] captured = how.getArgumentTypes();
      String type = Type.getMethodDescriptor(Type.VOID_TYPE, captured);
      MethodVisitor code = out.visitMethod(Opcodes.ACC_PRIVATE, "<init>", type, null, null);
      code.visitCode();
      code.visitVarInsn(Opcodes.ALOAD, 0);
      code.visitMethodInsn(Opcodes.INVOKESPECIAL, "java/lang/Object", "<init>", "()V", false);
      int at = 1;
      for (int i = 0; i < captured.length; i++) {
        String field = captured[i].getDescriptor();
        out.visitField(Opcodes.ACC_PRIVATE | Opcodes.ACC_FINAL, "c" + i, field, null, null)
            .visitEnd();
        code.visitVarInsn(Opcodes.ALOAD, 0);
        code.visitVarInsn(captured[i].getOpcode(Opcodes.ILOAD), at);
        code.visitFieldInsn(Opcodes.PUTFIELD, name, "c" + i, field);
        at += captured[i].getSize();
      }
      end(code, Opcodes.RETURN);
    }

    /** One that captures nothing is made once, as it was before. */
    private void factory(ClassWriter out) {
      Type[] captured = how.getArgumentTypes();
      String type = Type.getMethodDescriptor(Type.VOID_TYPE, captured);
      MethodVisitor make =
          out.visitMethod(Opcodes.ACC_STATIC, "make", how.getDescriptor(), null, null);
      make.visitCode();
      if (captured.length > 0) {
        make.visitTypeInsn(Opcodes.NEW, name);
        make.visitInsn(Opcodes.DUP);
        load(make, captured, 0);
        make.visitMethodInsn(Opcodes.INVOKESPECIAL, name, "<init>", type, false);
      } else {
        String self = "L" + name + ";";
        out.visitField(
                Opcodes.ACC_PRIVATE | Opcodes.ACC_STATIC | Opcodes.ACC_FINAL,
                "ONE",
                self,
                null,
                null)
            .visitEnd();
        MethodVisitor first = out.visitMethod(Opcodes.ACC_STATIC, "<clinit>", "()V", null, null);
        first.visitCode();
        first.visitTypeInsn(Opcodes.NEW, name);
        first.visitInsn(Opcodes.DUP);
        first.visitMethodInsn(Opcodes.INVOKESPECIAL, name, "<init>", type, false);
        first.visitFieldInsn(Opcodes.PUTSTATIC, name, "ONE", self);
        end(first, Opcodes.RETURN);
        make.visitFieldInsn(Opcodes.GETSTATIC, name, "ONE", self);
      }
      end(make, Opcodes.ARETURN);
    }

    private void body(ClassWriter out) {
      MethodVisitor code =
          out.visitMethod(Opcodes.ACC_PUBLIC, method, seen.getDescriptor(), null, null);
      code.visitCode();
      boolean creates = called.getTag() == Opcodes.H_NEWINVOKESPECIAL;
      if (creates) {
        code.visitTypeInsn(Opcodes.NEW, called.getOwner());
        code.visitInsn(Opcodes.DUP);
      }
      List<Type> wanted = new ArrayList<>();
      if (!creates && called.getTag() != Opcodes.H_INVOKESTATIC) {
        wanted.add(Type.getObjectType(called.getOwner()));
      }
      wanted.addAll(List.of(Type.getArgumentTypes(called.getDesc())));
      Type[] captured = how.getArgumentTypes();
      for (int i = 0; i < captured.length; i++) {
        code.visitVarInsn(Opcodes.ALOAD, 0);
        code.visitFieldInsn(Opcodes.GETFIELD, name, "c" + i, captured[i].getDescriptor());
        adapt(code, captured[i], captured[i], wanted.get(i));
      }
      Type[] given = seen.getArgumentTypes();
      int at = 1;
      for (int i = 0; i < given.length; i++) {
        code.visitVarInsn(given[i].getOpcode(Opcodes.ILOAD), at);
        adapt(code, given[i], meant.getArgumentTypes()[i], wanted.get(captured.length + i));
        at += given[i].getSize();
      }
      code.visitMethodInsn(
          opcode(), called.getOwner(), called.getName(), called.getDesc(), called.isInterface());
      Type got =
          creates ? Type.getObjectType(called.getOwner()) : Type.getReturnType(called.getDesc());
      Type back = seen.getReturnType();
      if (back.getSort() != Type.VOID) {
        adapt(code, got, got, back);
      }
      // what nobody asked for stays behind on the stack, which is given up
      end(code, back.getOpcode(Opcodes.IRETURN));
    }

    private int opcode() {
      return switch (called.getTag()) {
        case Opcodes.H_INVOKESTATIC -> Opcodes.INVOKESTATIC;
        case Opcodes.H_NEWINVOKESPECIAL -> Opcodes.INVOKESPECIAL;
        case Opcodes.H_INVOKEINTERFACE -> Opcodes.INVOKEINTERFACE;
          // a private method of the nest
        default -> called.isInterface() ? Opcodes.INVOKEINTERFACE : Opcodes.INVOKEVIRTUAL;
      };
    }

    private static void load(MethodVisitor code, Type[] types, int first) {
      int at = first;
      for (Type type : types) {
        code.visitVarInsn(type.getOpcode(Opcodes.ILOAD), at);
        at += type.getSize();
      }
    }

    private static void end(MethodVisitor code, int how) {
      code.visitInsn(how);
      code.visitMaxs(0, 0);
      code.visitEnd();
    }

    /** Turns what is on the stack into another type; {@code meant} says more of a reference. */
    private static void adapt(MethodVisitor code, Type from, Type meant, Type to) {
      boolean primitive = Primitive.of(from) != null;
      if (!primitive && Primitive.of(to) == null) {
        if (!from.equals(to) && !to.getInternalName().equals("java/lang/Object")) {
          code.visitTypeInsn(Opcodes.CHECKCAST, to.getInternalName());
        }
      } else if (!primitive) {
        Primitive boxed = Primitive.boxed(meant);
        Primitive held = boxed == null ? Primitive.of(to) : boxed;
        code.visitTypeInsn(Opcodes.CHECKCAST, held.wrapper);
        code.visitMethodInsn(
            Opcodes.INVOKEVIRTUAL, held.wrapper, held.word + "Value", "()" + held.type, false);
        widen(code, held.type, to);
      } else if (Primitive.of(to) != null) {
        widen(code, from, to);
      } else {
        Primitive held = Primitive.of(from);
        String type = "(" + held.type + ")L" + held.wrapper + ";";
        code.visitMethodInsn(Opcodes.INVOKESTATIC, held.wrapper, "valueOf", type, false);
      }
    }

    private static void widen(MethodVisitor code, Type from, Type to) {
      boolean small = from.getSort() <= Type.INT;
      if (from.equals(to) || small && to.getSort() <= Type.INT) {
        return;
      }
      String both = (small ? "I" : from.getDescriptor()) + to.getDescriptor();
      code.visitInsn(
          switch (both) {
            case "IJ" -> Opcodes.I2L;
            case "IF" -> Opcodes.I2F;
            case "ID" -> Opcodes.I2D;
            case "JF" -> Opcodes.L2F;
            case "JD" -> Opcodes.L2D;
            case "FD" -> Opcodes.F2D;
            default -> throw new IllegalStateException("no widening " + both);
          });
    }
  }

  private enum Primitive {
    BOOLEAN(Type.BOOLEAN_TYPE, "boolean", "java/lang/Boolean"),
    CHAR(Type.CHAR_TYPE, "char", "java/lang/Character"),
    BYTE(Type.BYTE_TYPE, "byte", "java/lang/Byte"),
    SHORT(Type.SHORT_TYPE, "short", "java/lang/Short"),
    INT(Type.INT_TYPE, "int", "java/lang/Integer"),
    LONG(Type.LONG_TYPE, "long", "java/lang/Long"),
    FLOAT(Type.FLOAT_TYPE, "float", "java/lang/Float"),
    DOUBLE(Type.DOUBLE_TYPE, "double", "java/lang/Double");

    private final Type type;
    private final String word;
    private final String wrapper;

    Primitive(Type type, String word, String wrapper) {
      this.type = type;
      this.word = word;
      this.wrapper = wrapper;
    }

    /** Null for references. */
    static Primitive of(Type type) {
      return Stream.of(values()).filter(each -> each.type.equals(type)).findFirst().orElse(null);
    }

    /** Of a wrapper; null for all else. */
    static Primitive boxed(Type type) {
      return Stream.of(values())
          .filter(
              each -> type.getSort() == Type.OBJECT && each.wrapper.equals(type.getInternalName()))
          .findFirst()
          .orElse(null);
    }
  }
}
