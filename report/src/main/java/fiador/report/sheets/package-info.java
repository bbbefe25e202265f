/** What reviewers are asked, as workbook, CSV and page. */
package fiador.report.sheets;
