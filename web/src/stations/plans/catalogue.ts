import type { Decisions, NumberDecision } from '@tender/core/decide'
import { degrees, gapMm, inUnit, mm, percent, THIN, three } from '../../format/numbers'

export type ChoiceDecision =
  | 'supports'
  | 'placement'
  | 'interfaceLines'
  | 'interfaceDirection'
  | 'stackMode'
  | 'standKind'
  | 'branches'
  | 'standLines'
  | 'thickStands'
  | 'purgeInto'
  | 'wallsFrom'
  | 'purgeWhere'
export type FilamentDecision = 'partFilament' | 'standFilament' | 'interfaceFilament'

type NumberEntry = {
  readonly label: string
  readonly unit: string
  readonly show: (value: number) => string
  readonly about: string
  /** What the field shows for 1 of the stored value. */ readonly factor?: number
}

/** How each number of a plan is called, shown and explained. */
export const NUMBERS: Record<NumberDecision, NumberEntry> = {
  layerHeightMm: {
    label: 'Layer height',
    unit: 'mm',
    show: gapMm,
    about: 'Thinner layers hold steeper overhangs and take longer.',
  },
  firstLayerHeightMm: { label: 'First layer', unit: 'mm', show: gapMm, about: 'The layer on the bed.' },
  lineWidthMm: {
    label: 'Line width',
    unit: 'mm',
    show: gapMm,
    about: 'Width of one printed line, part and supports alike.',
  },
  walls: { label: 'Walls', unit: 'lines', show: three, about: 'Outlines around every layer of the part.' },
  fillDensity: {
    label: 'Fill',
    unit: '%',
    show: percent,
    about: 'How much of the inside is plastic.',
    factor: 100,
  },
  skinLayers: {
    label: 'Solid layers',
    unit: 'layers',
    show: three,
    about: 'Under every upper and above every lower face.',
  },
  freeAngleDeg: {
    label: 'Free angle',
    unit: '°',
    show: degrees,
    about: 'Whatever leans farther from the vertical is held.',
  },
  freeSpanMm: {
    label: 'Free span',
    unit: 'mm',
    show: (value) => (value === 0 ? 'no length' : mm(value)),
    about: 'Undersides carried on two opposite sides stay free up to this length.',
  },
  upperGapMm: {
    label: 'Upper gap',
    unit: 'mm',
    show: gapMm,
    about: 'Air between the interface and the part above it.',
  },
  lowerGapMm: {
    label: 'Lower gap',
    unit: 'mm',
    show: gapMm,
    about: 'Air between a stand and the part it rests on.',
  },
  sideGapMm: {
    label: 'Side gap',
    unit: 'mm',
    show: gapMm,
    about: 'Air between a stand and the walls beside it.',
  },
  marginMm: {
    label: 'Margin',
    unit: 'mm',
    show: mm,
    about: 'How far stands reach beyond what they hold.',
  },
  interfaceLayers: {
    label: 'Interface layers',
    unit: 'layers',
    show: three,
    about: 'Three to five peel off as one sheet; none leaves the stand’s open lines below the part.',
  },
  lowerInterfaceLayers: {
    label: 'Interface layers below',
    unit: 'layers',
    show: three,
    about: 'Under a stand that rests on the part: it comes off there as cleanly as above.',
  },
  supportSpanMm: {
    label: 'Span of support lines',
    unit: 'mm',
    show: mm,
    about: 'No line of a support hangs farther than this from what carries it.',
  },
  leanDeg: {
    label: 'Lean of branches',
    unit: '°',
    show: degrees,
    about: 'How far branches lean out. In the part’s own filament they stay 5° below its free angle.',
  },
  interfaceSpacingMm: {
    label: 'Between interface lines',
    unit: 'mm',
    show: (value) => (value === 0 ? 'solid' : `${mm(value)} apart`),
    about:
      'Air between neighbouring interface lines. Open lines let go more easily and leave a rougher face.',
  },
  standDensity: {
    label: 'Density of stands',
    unit: '%',
    show: percent,
    about: 'How much of a stand is plastic.',
    factor: 100,
  },
  standWalls: {
    label: 'Walls of stands',
    unit: 'lines',
    show: three,
    about:
      'Outlines around each stand: it stands firmer, and comes off in one piece. Crossing lines, and what carries an interface, have one in any case.',
  },
  denseTopMm: {
    label: 'Denser top',
    unit: 'mm',
    show: (value) => (value === 0 ? 'no part' : `the top ${mm(value)}`),
    about: 'Height below the interface in which a stand is denser.',
  },
  denseTopDensity: {
    label: 'Density of the top',
    unit: '%',
    show: percent,
    about: 'How much of the denser top is plastic.',
    factor: 100,
  },
  brimLines: {
    label: 'Brim',
    unit: 'lines',
    show: three,
    about: 'Lines around the part itself on the bed, when it stands on little.',
  },
  footingLines: {
    label: 'Footing',
    unit: 'lines',
    show: three,
    about: 'Extra lines around a stand’s first layer, and as many inside of it, so that it stays on the bed.',
  },
  purgeMm3: {
    label: 'Purge before the part',
    unit: 'mm³',
    show: (value) => inUnit(value, 'mm³'),
    about: 'Pushed out at a swap to the part’s filament, until no leftovers of the other come along.',
  },
  purgeAwayMm3: {
    label: 'Purge before supports',
    unit: 'mm³',
    show: (value) => inUnit(value, 'mm³'),
    about:
      'Pushed out at a swap to a filament of supports. What is thrown away bears more leftovers; an interface that lets go must be clean.',
  },
  supportFanPercent: {
    label: 'Fan on supports',
    unit: '%',
    show: (value) => inUnit(value, '%'),
    about: 'Cooling while stands and interface are printed. Cooled less, they hold together better.',
  },
  fanOffLayers: {
    label: 'Layers without fan',
    unit: 'layers',
    show: (value) => `layer${THIN}${three(value + 1)}`,
    about: 'Layers from the bed up that are not cooled, so that they hold on to it.',
  },
  bridgeMmS: {
    label: 'Speed of bridges',
    unit: 'mm/s',
    show: (value) => inUnit(value, 'mm/s'),
    about: 'How fast lines over nothing are laid, from carrier to carrier.',
  },
  bridgeFanPercent: {
    label: 'Fan on bridges',
    unit: '%',
    show: (value) => inUnit(value, '%'),
    about: 'Cooling while lines over nothing are laid.',
  },
  fanPercent: {
    label: 'Fan',
    unit: '%',
    show: (value) => inUnit(value, '%'),
    about: 'Cooling while the part is printed. What trials say holds for the fan they were printed with.',
  },
}

/** The wordings of each choice, and what it means. */
export const CHOICES: {
  readonly [D in ChoiceDecision]: {
    readonly label: string
    readonly options: readonly {
      readonly value: Decisions[D]
      readonly word: string
      readonly means: string
    }[]
  }
} = {
  supports: {
    label: 'What is held',
    options: [
      { value: true, word: 'whatever leans past', means: 'Supports are printed.' },
      {
        value: false,
        word: 'nothing, though it leans past',
        means: 'No supports at all. Whatever leans or starts in mid-air is left to itself.',
      },
    ],
  },
  placement: {
    label: 'Where stands may rest',
    options: [
      {
        value: 'bed',
        word: 'the bed only',
        means: 'Nothing touches the part from above; what cannot be reached from the bed stays free.',
      },
      {
        value: 'anywhere',
        word: 'the bed and the part',
        means: 'Reaches everything, and leaves marks where a stand rests.',
      },
    ],
  },
  interfaceLines: {
    label: 'Interface lines',
    options: [
      {
        value: 'straight',
        word: 'straight',
        means: 'Every layer laid the same way: it peels off as one sheet.',
      },
      {
        value: 'crossed',
        word: 'crossed',
        means: 'Each layer across the one below: stiffer, and harder to peel.',
      },
    ],
  },
  standKind: {
    label: 'Kind of stands',
    options: [
      {
        value: 'straight',
        word: 'straight',
        means: 'Upright under everything they hold: firm, quick to print, and most plastic where it is high.',
      },
      {
        value: 'branching',
        word: 'branching',
        means:
          'Crowns on branches that lean, join and thicken towards the bed: far less plastic under high undersides, and they get round what is in the way.',
      },
    ],
  },
  branches: {
    label: 'Branches',
    options: [
      {
        value: 'slim',
        word: 'as slim as they may be',
        means:
          'Least plastic. They hold together above; until they are printed that far a nozzle may bend one.',
      },
      {
        value: 'sturdy',
        word: 'thick enough to stand alone',
        means: 'Each stands a nozzle’s push by itself until it holds together with others.',
      },
    ],
  },
  standLines: {
    label: 'Lines of stands',
    options: [
      { value: 'joined', word: 'joined', means: 'Neighbouring lines are one path: quick, and of one piece.' },
      { value: 'separate', word: 'separate', means: 'Every line for itself: it breaks away line by line.' },
      {
        value: 'crosswise',
        word: 'crosswise',
        means: 'Layers cross each other: firmest, and holds on longest.',
      },
    ],
  },
  thickStands: {
    label: 'Layers of stands',
    options: [
      {
        value: false,
        word: 'as thick as the part’s',
        means: 'Every height is visited by all filaments it needs.',
      },
      {
        value: true,
        word: 'twice as thick',
        means: 'Where the nozzle can lay them: less time, fewer lines, a rougher stand.',
      },
    ],
  },
  interfaceDirection: {
    label: 'Direction of interface lines',
    options: [
      {
        value: 'across',
        word: 'across',
        means: 'Crossing the first lines of the part: they touch in points and let go.',
      },
      {
        value: 'along',
        word: 'along',
        means: 'With the first lines of the part: they may lie in the grooves and stick.',
      },
    ],
  },
  stackMode: {
    label: 'Thickness of interface layers',
    options: [
      {
        value: 'own',
        word: 'as thick as the gap needs',
        means: 'Interface layers get a thickness of their own, so that the gap comes out as asked.',
      },
      {
        value: 'shared',
        word: 'as thick as the part’s',
        means: 'The gap can only be a whole number of layers.',
      },
    ],
  },
  wallsFrom: {
    label: 'Order of walls',
    options: [
      {
        value: 'outside',
        word: 'outside first',
        means: 'True to size: nothing behind pushes the face out.',
      },
      {
        value: 'inside',
        word: 'inside first',
        means: 'What leans out rests on the walls behind it: steeper faces come out better.',
      },
    ],
  },
  purgeInto: {
    label: 'What takes leftovers first',
    options: [
      { value: 'nothing', word: 'Stands stay clean', means: 'Nothing that is laid anyway takes leftovers.' },
      {
        value: 'stands',
        word: 'Stands take leftovers first',
        means: 'Stands laid after the swap take leftovers: they are thrown away in any case.',
      },
      {
        value: 'fill',
        word: 'Stands and fill take leftovers first',
        means:
          'The part’s fill takes some too, inside its walls; where there is but one wall, stands alone do. It may show through thin light walls.',
      },
    ],
  },
  purgeWhere: {
    label: 'Where the rest is purged',
    options: [
      {
        value: 'printer',
        word: 'where the printer’s swap puts it',
        means: 'The printer’s own swap block pushes it out: into a chute, or beside the bed.',
      },
      {
        value: 'tower',
        word: 'into a tower',
        means:
          'A pillar beside the part, as tall as the last swap: plastic and time, and no printer needs to know how.',
      },
    ],
  },
}

export const FILAMENT_ROLES: Record<FilamentDecision, string> = {
  partFilament: 'The part',
  standFilament: 'The stands',
  interfaceFilament: 'What touches the part',
}
