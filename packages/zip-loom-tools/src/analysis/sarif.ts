/** Findings in the format that code hosts read: SARIF 2.1.0 (OASIS). */
import type { Finding } from './findings.ts';

/**
 * One run, as data for JSON. Files are URIs relative to where the command was run.
 * @param version of zip-loom
 */
export function sarif(findings: readonly Finding[], version: string): object {
  const codes = [...new Set(findings.map(({ code }) => code))].sort();
  return {
    // §3.13.3 “$schema property”
    $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'zip-loom', semanticVersion: version, rules: codes.map((id) => ({ id })) } },
        // §3.14.17 “columnKind property”
        columnKind: 'utf16CodeUnits',
        results: findings.map(({ file, line, column, code, severity, message, hint }) => ({
          ruleId: code,
          ruleIndex: codes.indexOf(code),
          level: severity,
          message: { text: hint === null ? message : `${message} ${hint}` },
          locations: [
            {
              physicalLocation: {
                artifactLocation: { uri: file.split('/').map(encodeURIComponent).join('/') },
                region: { startLine: line, startColumn: column },
              },
            },
          ],
        })),
      },
    ],
  };
}
