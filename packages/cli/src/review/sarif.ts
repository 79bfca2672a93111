import type { FindingCode, Review, ReviewFinding } from 'gribo';
import type { Log, ReportingDescriptor, Result } from 'sarif';

/** What each code is about, in a sentence, for tools that show rules. */
const RULES: Readonly<Record<FindingCode, string>> = {
  unsealed: 'A sealed column gets out.',
  everything: 'A shape takes every column.',
  unshown: 'A column is neither shown nor set.',
  'write-only': 'A column is set and never shown.',
  'no-audience': 'Callers of no audience get what an audience does not.',
  unbounded: 'A list inside the rows of a list has no limit.',
  'heavy-list': 'A row of a list says more than reading one does.',
  style: 'A name is not in the style of the others.',
  overdue: 'Something is still there after its last day.',
  'no-sample': 'There is no sample row to show an endpoint with.',
  drift: 'The model and the database do not agree.',
  settled: 'An accepted finding is found no more.',
};

const rule = ([id, text]: readonly [string, string]): ReportingDescriptor => ({
  id,
  shortDescription: { text },
});

const resultOf = (
  { code, severity, place, message, advice }: ReviewFinding,
  uri: string,
  reason: string | null,
): Result => ({
  ruleId: code,
  level: severity,
  message: { text: `${place}: ${message} ${advice}` },
  locations: [
    {
      physicalLocation: { artifactLocation: { uri }, region: { startLine: 1 } },
      logicalLocations: [{ fullyQualifiedName: place }],
    },
  ],
  partialFingerprints: { 'gribo/v1': `${code} ${place}` },
  ...(reason === null ? {} : { suppressions: [{ kind: 'external', justification: reason }] }),
});

/**
 * A review as SARIF (OASIS, 2.1.0), for tools that gather findings.
 *
 * @param uri the configuration, as the place where findings are mended or accepted
 */
export const sarif = ({ findings, accepted }: Review, uri: string): Log => ({
  $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
  version: '2.1.0',
  runs: [
    {
      tool: { driver: { name: 'gribo', rules: Object.entries(RULES).map(rule) } },
      results: [
        ...findings.map((finding) => resultOf(finding, uri, null)),
        ...accepted.map(({ reason, ...finding }) => resultOf(finding, uri, reason)),
      ],
    },
  ],
});
