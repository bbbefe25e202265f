/** Row rules that people wrote in SQL, as predicates: {@link fiador.sqltext.rules.RowRuleText}. */
package fiador.sqltext.rules;
