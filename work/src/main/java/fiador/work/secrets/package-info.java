/** The secrets of users: where they stand in the environment, and those of users that are new. */
package fiador.work.secrets;
