package fiador.work.settling;

/**
 * How a run was stopped half-way.
 *
 * @param why what the server said
 * @param done how many steps last
 * @param all how many there were
 * @param known false where more may have been carried out than is known
 */
public record Stop(String why, int done, int all, boolean known) {}
