import type { Review, ReviewFinding } from 'gribo';
import { type FindingRule, reviewRules } from 'gribo/kit';
import type { Log, ReportingDescriptor, Result } from 'sarif';
import { PUBLISHED } from '../publish/published.js';
import { ANYWHERE } from './anywhere-finding.js';
import type { Declared } from './declarations.js';
import { DRIFT } from './drift-finding.js';
import { ENDED } from './ended-finding.js';

const descriptor = ({ code, rule, advice }: Omit<FindingRule, 'find'>): ReportingDescriptor => ({
  id: code,
  shortDescription: { text: rule },
  help: { text: advice },
});

const resultOf = (
  { code, severity, place, message, advice }: ReviewFinding,
  { uri, line }: Declared,
  reason: string | null,
): Result => ({
  ruleId: code,
  level: severity,
  message: { text: `${place}: ${message} ${advice}` },
  locations: [
    {
      physicalLocation: { artifactLocation: { uri }, region: { startLine: line } },
      logicalLocations: [{ fullyQualifiedName: place }],
    },
  ],
  partialFingerprints: { 'gribo/v1': `${code} ${place}` },
  ...(reason === null ? {} : { suppressions: [{ kind: 'external', justification: reason }] }),
});

/**
 * A review as SARIF (OASIS, 2.1.0), for tools that gather findings.
 *
 * @param declared where the place of a finding is declared
 */
export const sarif = ({ findings, accepted }: Review, declared: (place: string) => Declared): Log => ({
  $schema: 'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
  version: '2.1.0',
  runs: [
    {
      tool: {
        driver: { name: 'gribo', rules: reviewRules([DRIFT, PUBLISHED, ENDED, ANYWHERE]).map(descriptor) },
      },
      results: [
        ...findings.map((finding) => resultOf(finding, declared(finding.place), null)),
        ...accepted.map(({ reason, ...finding }) => resultOf(finding, declared(finding.place), reason)),
      ],
    },
  ],
});
