/** The secrets of users: where they stand in the environment, and those of users that are new. */
@org.jspecify.annotations.NullMarked
package fiador.work.secrets;
