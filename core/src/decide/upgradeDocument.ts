import { leanBelow } from './decisions'
import { clingsOf } from './document'
import type { Filament } from '../bench'

type Plain = Record<string, unknown>
const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** What plans did before these could be chosen, so that an older plan stays as it was meant. */
const BEFORE_CHOICE: Plain = {
  standKind: 'straight',
  branches: 'slim',
  standLines: 'joined',
  standWalls: 1,
  lowerInterfaceLayers: 0,
  interfaceLines: 'straight',
  denseTopMm: 0,
  denseTopDensity: 0.3,
  thickStands: false,
  brimLines: 0,
  supportSpanMm: 5,
}

/**
 * A document of an earlier day as one of today. Of version 1: filaments and printers, which were named, get
 * an identity. Anything else is given back as it is, for whoever checks it.
 * @param identify the identity of a filament or printer that went by a name; without one the name is the
 * identity
 */
export function upgradeDocument(
  document: unknown,
  identify: (kind: 'filament' | 'printer', name: string) => string | undefined = () => undefined,
): unknown {
  if (!isPlain(document)) return document
  if (document.version === 2) return withLaterChoices(document)
  if (document.version !== 1) return document
  const idOf = (kind: 'filament' | 'printer', name: unknown) => identify(kind, String(name)) ?? name
  const filaments = Array.isArray(document.filaments)
    ? document.filaments.map((one: unknown) =>
        isPlain(one) ? { id: idOf('filament', one.name), ...one } : one,
      )
    : document.filaments
  const decisions = isPlain(document.decisions)
    ? { ...BEFORE_CHOICE, ...document.decisions }
    : document.decisions
  if (isPlain(decisions))
    for (const role of ['partFilament', 'standFilament', 'interfaceFilament'])
      if (role in decisions) decisions[role] = idOf('filament', decisions[role])
  return withLaterChoices({
    exceptions: [],
    posts: [],
    cling: Array.isArray(filaments) ? clingsOf(filaments.filter(isPlain) as unknown as Filament[]) : {},
    ...document,
    version: 2,
    decisions,
    filaments,
    printer: isPlain(document.printer)
      ? { id: idOf('printer', document.printer.name), ...document.printer }
      : document.printer,
  })
}

/** What came later than version 2, each as plans did before it could be chosen. */
const withLaterChoices = (document: Plain): Plain => withLean(withPurgeEachWay(document))

/** Branches leaned by the free angle of the part's filament, whatever they were printed in. */
function withLean(document: Plain): Plain {
  const { decisions } = document
  if (!isPlain(decisions) || !('supportSpanMm' in decisions) || 'leanDeg' in decisions) return document
  return typeof decisions.freeAngleDeg === 'number'
    ? { ...document, decisions: { ...decisions, leanDeg: leanBelow(decisions.freeAngleDeg) } }
    : document
}

/**
 * Plans from before directions were told apart purged as much either way, wherever the printer let them; they
 * cooled supports as the part.
 */
function withPurgeEachWay(document: Plain): Plain {
  const { decisions, evidence } = document
  if (!isPlain(decisions) || !('purgeMm3' in decisions) || 'purgeAwayMm3' in decisions) return document
  return {
    ...document,
    decisions: {
      purgeWhere: 'printer',
      ...('fanPercent' in decisions && { supportFanPercent: decisions.fanPercent }),
      ...decisions,
      purgeAwayMm3: decisions.purgeMm3,
    },
    ...(isPlain(evidence) &&
      'purgeMm3' in evidence && { evidence: { ...evidence, purgeAwayMm3: evidence.purgeMm3 } }),
  }
}
