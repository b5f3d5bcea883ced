// What lint has found, as a log of the Static Analysis Results Interchange Format (SARIF 2.1.0, an OASIS standard).

import { relative, sep } from 'node:path';
import { LINT_IDS, type LintId } from 'upper-gate/lint';
import type { Linted } from './formats.ts';

/** The address of a file, relative to the folder that the command runs in. */
const addressOf = (file: string): string => encodeURI(relative('', file).split(sep).join('/'));

/** The log of one run. */
export function sarifOf(all: readonly Linted[], version: string): object {
  const ids = Object.keys(LINT_IDS) as LintId[];
  return {
    $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: {
          driver: {
            name: 'upper-gate lint',
            semanticVersion: version,
            rules: ids.map((id) => {
              const { severity, why, fix } = LINT_IDS[id];
              return { id, shortDescription: { text: why }, help: { text: fix }, defaultConfiguration: { level: severity } };
            }),
          },
        },
        artifacts: [...new Set(all.map(({ file }) => addressOf(file)))].map((uri) => ({ location: { uri } })),
        results: all.flatMap(({ file, schema, findings }) =>
          findings.map(({ id, severity, path, rule, what, samples, place }) => ({
            ruleId: id,
            ruleIndex: ids.indexOf(id),
            level: severity,
            message: { text: what },
            locations: [
              {
                physicalLocation: {
                  artifactLocation: { uri: addressOf(place?.file ?? file) },
                  ...(place && { region: { startLine: place.line } }),
                },
                logicalLocations: [{ fullyQualifiedName: path === '' ? schema : `${schema}.${path}`, kind: 'member' }],
              },
            ],
            properties: { ...(rule !== undefined && { rule }), ...(samples !== undefined && { samples }) },
          })),
        ),
      },
    ],
  };
}
