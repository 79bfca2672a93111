import type { ReviewFinding, Severity } from 'gribo';

const counted = (count: number, what: string): string => `${count} ${what}${count === 1 ? '' : 's'}`;

/** How many findings there are, by how much they matter. */
export const findingWords = (findings: readonly Pick<ReviewFinding, 'severity'>[]): string => {
  const of = (severity: Severity): number =>
    findings.filter((finding) => finding.severity === severity).length;
  return [counted(of('error'), 'error'), counted(of('warning'), 'warning'), counted(of('note'), 'note')].join(
    ', ',
  );
};
