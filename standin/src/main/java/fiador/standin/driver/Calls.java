package fiador.standin.driver;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.Method;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.sql.Wrapper;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Answers the methods of a large interface of JDBC by name, and says of all others that they are
 * not there. Two hundred methods that throw would say no more.
 */
final class Calls implements InvocationHandler {
  private final String what;
  private final Map<String, Call> known = new HashMap<>();

  /** One method. */
  @FunctionalInterface
  interface Call {
    @Nullable Object on(Object[] arguments) throws SQLException;
  }

  /**
   * @param what it is called in messages
   */
  Calls(String what) {
    this.what = what;
  }

  /** Answers a method so. */
  Calls with(String method, Call call) {
    known.put(method, call);
    return this;
  }

  /** Answers methods with a value, whatever they are asked; null for those that give nothing. */
  Calls always(@Nullable Object value, String... methods) {
    for (String method : methods) {
      known.put(method, arguments -> value);
    }
    return this;
  }

  /** The object. */
  <T> T as(Class<T> type) {
    return type.cast(
        java.lang.reflect.Proxy.newProxyInstance(
            Calls.class.getClassLoader(), new Class<?>[] {type}, this));
  }

  @Override
  public @Nullable Object invoke(Object self, Method method, Object @Nullable [] given)
      throws SQLException {
    Object[] arguments = given == null ? new Object[0] : given;
    Call call = known.get(method.getName());
    if (call != null) {
      return call.on(arguments);
    }
    return switch (method.getName()) {
      case "toString" -> what;
      case "hashCode" -> System.identityHashCode(self);
      case "equals" -> self == arguments[0];
      case "isWrapperFor" -> ((Class<?>) arguments[0]).isInstance(self);
      case "unwrap" -> unwrapped(self, (Class<?>) Objects.requireNonNull(arguments[0]));
      default -> throw new SQLFeatureNotSupportedException(what + " has no " + method.getName());
    };
  }

  private Object unwrapped(Object self, Class<?> type) throws SQLException {
    if (self instanceof Wrapper && type.isInstance(self)) {
      return self;
    }
    throw new SQLException(what + " is no " + type.getName());
  }
}
