/**
 * How to take away what is too much. {@link fiador.repairs.Trim} takes what is redundant or unused,
 * {@link fiador.repairs.Sever} one privilege of one user with the least damage (a minimum cut),
 * {@link fiador.repairs.Regroup} looks for fewer roles that give the same.
 */
package fiador.repairs;
