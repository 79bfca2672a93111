import type { ReviewFinding, Severity } from 'gribo';
import { counted } from '../screen/counted.js';

/** How many findings there are, by how much they matter. */
export const findingWords = (findings: readonly Pick<ReviewFinding, 'severity'>[]): string => {
  const of = (severity: Severity): number =>
    findings.filter((finding) => finding.severity === severity).length;
  return [counted(of('error'), 'error'), counted(of('warning'), 'warning'), counted(of('note'), 'note')].join(
    ', ',
  );
};
