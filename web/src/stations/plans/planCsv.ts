import { summaryJson } from '@tender/contract'
import type { PlanSummary } from '@tender/core/plan'
import { csvCell } from '@tender/core/table'
import { csvFormatRows } from 'd3-dsv'

/** A plan's numbers as rows: one block a kind, told apart by the first column. */
export function planCsv(summary: PlanSummary): string {
  const json = summaryJson(summary)
  return csvFormatRows([
    ['kind', 'name', 'mm3', 'g', 'm', 'cost', 'zMm', 'areaMm2', 'gapMm', 'achievedGapMm'],
    ...json.filaments.map((use) =>
      ['filament', use.name, use.mm3, use.g, use.m, use.cost, '', '', '', ''].map(csvCell),
    ),
    ...Object.entries(json.roles).map(([role, use]) =>
      ['role', role, use.mm3, use.g, '', '', '', '', '', ''].map(csvCell),
    ),
    ...json.contacts.map((contact) =>
      [
        'contact',
        contact.kind,
        '',
        '',
        '',
        '',
        contact.zMm,
        contact.areaMm2,
        contact.gapMm,
        contact.achievedGapMm,
      ].map(csvCell),
    ),
    ...json.islands.map((island) =>
      ['island', island.held ? 'held' : 'in the air', '', '', '', '', island.zMm, island.areaMm2, '', ''].map(
        csvCell,
      ),
    ),
    ...json.recuts.map((recut) =>
      [
        'recut',
        `plain layers of ${recut.layerMm} mm`,
        '',
        '',
        '',
        '',
        '',
        '',
        recut.gapMm,
        recut.becomesMm,
      ].map(csvCell),
    ),
    ...json.supportHeightsMm.map((z) => ['supportTop', '', '', '', '', '', z, '', '', ''].map(csvCell)),
  ])
}
