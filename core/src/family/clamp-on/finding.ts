import type { Finding } from '../../finding.ts'

/** A finding at one entry. */
export const finding = (
  code: string,
  severity: Finding['severity'],
  where: string,
  says: string,
  rule?: string,
): Finding => ({
  code,
  severity,
  where: [where],
  says,
  ...(rule ? { rule } : {}),
})
