/**
 * What a charter wants, before any server is asked. Read {@link fiador.changes.wanted.Wanted}
 * first, then {@link fiador.changes.wanted.Period} for when it is, {@link
 * fiador.changes.wanted.WantedSight} for rows and columns, {@link fiador.changes.wanted.Governed}
 * for what of a server the charter decides, {@link fiador.changes.wanted.OnPaper} for the estate a
 * charter describes by itself, and {@link fiador.changes.wanted.PaperProblems} for what a kind of
 * server cannot have.
 */
package fiador.changes.wanted;
