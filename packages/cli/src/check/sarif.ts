import type { Review, ReviewFinding } from 'gribo';
import { type FindingRule, reviewRules } from 'gribo/kit';
import type { Log, ReportingDescriptor, Result } from 'sarif';
import { DRIFT } from './drift-finding.js';

const descriptor = ({ code, rule, advice }: Omit<FindingRule, 'find'>): ReportingDescriptor => ({
  id: code,
  shortDescription: { text: rule },
  help: { text: advice },
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
      tool: { driver: { name: 'gribo', rules: reviewRules([DRIFT]).map(descriptor) } },
      results: [
        ...findings.map((finding) => resultOf(finding, uri, null)),
        ...accepted.map(({ reason, ...finding }) => resultOf(finding, uri, reason)),
      ],
    },
  ],
});
