import type { PlanSummary } from './planResult'

/**
 * Heights at which layers of supports end, as text that a file carries along: a program that only knows
 * layers of one thickness loses them.
 */
export const supportHeightsText = ({ supportHeightsMm }: Pick<PlanSummary, 'supportHeightsMm'>): string =>
  supportHeightsMm.length === 0
    ? ''
    : `Tops of support layers in mm: ${Array.from(supportHeightsMm, (z) => Number(z.toFixed(4))).join(' ')}`
