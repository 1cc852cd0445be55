import { summaryJson } from '@tender/contract'
import type { PlanSummary } from '@tender/core/plan'
import { csvFormatRows } from 'd3-dsv'

/** A plan's numbers as rows: one block a kind, told apart by the first column. */
export function planCsv(summary: PlanSummary): string {
  const json = summaryJson(summary)
  return csvFormatRows([
    ['kind', 'name', 'mm3', 'g', 'm', 'cost', 'zMm', 'areaMm2', 'gapMm', 'achievedGapMm'],
    ...json.filaments.map((use) => ['filament', use.name, use.mm3, use.g, use.m, use.cost, '', '', '', ''].map(String)),
    ...Object.entries(json.roles).map(([role, use]) => ['role', role, use.mm3, use.g, '', '', '', '', '', ''].map(String)),
    ...json.contacts.map((contact) => ['contact', contact.kind, '', '', '', '', contact.zMm, contact.areaMm2, contact.gapMm, contact.achievedGapMm].map(String)),
    ...json.islands.map((island) => ['island', island.held ? 'held' : 'in the air', '', '', '', '', island.zMm, island.areaMm2, '', ''].map(String)),
  ])
}
