import type { Finding } from '@calm/core/finding'
import { sayNumber } from '@calm/core/quantity/round'
import type { WiredBudget } from '@calm/core/wire/budget-from-wiring'
import type { LoopBudget } from '@calm/core/wire/loop-budget'

/** The budget's verdict with its margin, in a sentence. */
export function budgetFinding(wired: WiredBudget, budget: LoopBudget): Finding {
  const rule = 'margin at 22.5 mA: 1 V or more is enough, less than 0 fails'
  const evidence = [
    { label: `at ${wired.device}, 22.5 mA`, value: budget.marginDesign + wired.input.vLift, unit: 'V' },
    { label: 'it needs', value: wired.input.vLift, unit: 'V' },
    { label: 'margin', value: budget.marginDesign, unit: 'V' },
  ]
  const base = { where: [wired.device], evidence, rule }
  if (budget.vTermMax > wired.max_V)
    return {
      ...base,
      code: 'BUDGET_TOO_HIGH',
      severity: 'stop',
      says: `At the supply’s highest and the lowest current ${wired.device} gets ${sayNumber(budget.vTermMax, 4)} V, above its ${wired.max_V} V.`,
    }
  switch (budget.verdict) {
    case 'PASS':
      return {
        ...base,
        code: 'BUDGET_PASS',
        severity: 'good',
        says: `The supply is enough: ${sayNumber(budget.marginDesign, 3)} V to spare at the burn-out current, with the supply at its lowest.`,
      }
    case 'TIGHT':
      return {
        ...base,
        code: 'BUDGET_TIGHT',
        severity: 'warn',
        says: `It works with ${sayNumber(budget.marginDesign, 2)} V to spare; less than 1 V leaves nothing for a meter in the loop or ageing terminals.`,
      }
    case 'FAIL':
      return {
        ...base,
        code: 'BUDGET_FAIL',
        severity: 'stop',
        says: `The supply is not enough: the loop stops rising at ${sayNumber(budget.iSaturation * 1000, 4)} mA. A burn-out alarm would look like a stuck high reading.`,
      }
  }
}
