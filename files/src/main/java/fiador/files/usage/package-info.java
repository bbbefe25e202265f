/**
 * What was really used, from servers' own logs: {@link fiador.files.usage.UsageReader} tells the
 * formats apart and streams their entries, {@link fiador.files.usage.EvidenceCollector} makes
 * evidence of their statements.
 */
package fiador.files.usage;
