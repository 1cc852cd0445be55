import { clingGuess, filamentOf } from '@tender/core/bench'
import {
  undersidesOf,
  KIND_WORDS,
  addException,
  bookOf,
  differsIn,
  holdingUnder,
  letDiffer,
  touchFlatAlone,
  withinException,
  type Exception,
  type Holding,
  type PlanDocument,
  type Where,
} from '@tender/core/decide'
import type { Contact } from '@tender/core/plan'
import { Plus, X } from 'lucide-react'
import { Fragment, type ReactNode } from 'react'
import { Button as AriaButton, Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components'
import styled from 'styled-components'
import { Button } from '../../ui/Button'
import { SoftLine } from '../../ui/Sheet'
import { NUMBERS, type CHOICES } from './catalogue'
import { Differences } from './Differences'
import { PlanContext, usePlanSetting, type PlanSetting } from './PlanContext'
import { CardToken, ChoiceToken, FilamentToken, NumberToken } from './Token'
import { Posts } from './Posts'
import { usePosts } from './usePosts'
import { useWhatIf } from './useWhatIf'
import { labelOf } from './inWords'
import { length } from '../../theme/measures'

/**
 * What the letter makes an exception of, each a sentence of its own; posts set by hand; and what may be worth
 * one.
 */
export function Exceptions({ chosen }: { /** The underside that is looked at. */ chosen: Contact | null }) {
  const { document, summary, change } = usePlanSetting()
  const { exceptions } = document
  const { setUnder } = usePosts()
  const kinds = [...new Set(summary?.contacts.map(({ kind }) => kind))].filter(
    (kind) => !exceptions.some(({ where }) => 'kind' in where && where.kind === kind),
  )
  const places: { id: string; word: string; where: Where }[] = [
    ...kinds.map((kind) => ({ id: `kind ${kind}`, word: KIND_WORDS[kind], where: { kind } })),
    ...document.zones.map(({ id, name }) => ({
      id: `zone ${id}`,
      word: `the zone “${name}”`,
      where: { zone: id },
    })),
    ...(chosen && !isRuledAlone(chosen, exceptions)
      ? [
          {
            id: 'chosen',
            word: `the underside at ${chosen.zMm.toFixed(2)} mm`,
            where: { contact: [...chosen.atMm, chosen.zMm] } as Where,
          },
        ]
      : []),
  ]
  return (
    <>
      {exceptions.map((exception, index) => (
        <ExceptionSentence key={index} exception={exception} index={index} />
      ))}
      <Posts />
      <Adding>
        <MenuTrigger>
          <Button quiet isDisabled={places.length === 0}>
            <Plus size={14} aria-hidden /> Make an exception
          </Button>
          <List>
            <Menu
              onAction={(key) => {
                if (key === 'post' && chosen) setUnder([...chosen.atMm, chosen.zMm])
                else change(addException(document, places.find(({ id }) => id === key)!.where))
              }}
            >
              {places.map(({ id, word }) => (
                <MenuItem key={id} id={id}>
                  Under {word}
                </MenuItem>
              ))}
              {chosen && <MenuItem id="post">A post by hand under {chosen.zMm.toFixed(2)} mm</MenuItem>}
            </Menu>
          </List>
        </MenuTrigger>
        <FlatAlone />
      </Adding>
    </>
  )
}

/** Whether an exception is about this underside already. */
function isRuledAlone({ holding }: Contact, exceptions: readonly Exception[]): boolean {
  const ruling = exceptions[holding - 1]
  return ruling !== undefined && 'contact' in ruling.where
}

/** The plan's setting as tokens of one exception see it: they show its values and change them. */
function useWithin(index: number): PlanSetting {
  const setting = usePlanSetting()
  const { document } = setting
  const evidenceOf = (of: PlanDocument) => ({ ...of.evidence, ...of.exceptions[index]?.evidence })
  return {
    ...setting,
    document: {
      ...document,
      decisions: { ...document.decisions, ...holdingUnder(document.decisions, document.exceptions[index]) },
      evidence: evidenceOf(document),
    },
    newer: {},
    resultId: null,
    evidenceOf,
    after: (change) => setting.after(withinException(document, index, change)),
    holding: index + 1,
    change: (change) => setting.change(withinException(document, index, change)),
    decide: (decisions) => setting.change(withinException(document, index, { decisions })),
  }
}

type Mark = '.' | ',' | undefined

/** How an exception says what it decides, with the mark behind it. */
const PHRASES: Partial<Record<keyof Holding, (then: Mark) => ReactNode>> = {
  interfaceFilament: (then) => (
    <>
      touch with <FilamentToken name="interfaceFilament" then={then} />
    </>
  ),
  standFilament: (then) => (
    <>
      fill the stands with <FilamentToken name="standFilament" then={then} />
    </>
  ),
  upperGapMm: (then) => (
    <>
      leave <NumberToken name="upperGapMm" /> above
      {then}
    </>
  ),
  lowerGapMm: (then) => (
    <>
      leave <NumberToken name="lowerGapMm" /> below
      {then}
    </>
  ),
  sideGapMm: (then) => (
    <>
      leave <NumberToken name="sideGapMm" /> beside
      {then}
    </>
  ),
  standKind: (then) => (
    <>
      build <ChoiceToken name="standKind" /> stands
      {then}
    </>
  ),
  branches: (then) => (
    <>
      make branches <ChoiceToken name="branches" then={then} />
    </>
  ),
  standDensity: (then) => (
    <>
      fill them to <NumberToken name="standDensity" then={then} />
    </>
  ),
  placement: (then) => (
    <>
      rest on <ChoiceToken name="placement" then={then} />
    </>
  ),
  interfaceLayers: (then) => (
    <>
      end with <NumberToken name="interfaceLayers" /> layers of interface
      {then}
    </>
  ),
}
/** Everything that an exception may decide, in the order it is said. */
const MAY_DIFFER = complete([
  'supports',
  'standKind',
  'branches',
  'interfaceFilament',
  'standFilament',
  'upperGapMm',
  'lowerGapMm',
  'sideGapMm',
  'placement',
  'interfaceLayers',
  'lowerInterfaceLayers',
  'interfaceSpacingMm',
  'interfaceLines',
  'interfaceDirection',
  'stackMode',
  'standLines',
  'standWalls',
  'standDensity',
  'denseTopMm',
  'denseTopDensity',
  'marginMm',
  'thickStands',
] as const)

/** A list that leaves no decision of holding out: one that is missing could neither be said nor kept. */
function complete<const L extends readonly (keyof Holding)[]>(
  list: Exclude<keyof Holding, L[number]> extends never ? L : never,
): L {
  return list
}

/** By how many phrases follow. */
const markBefore = (following: number): Mark => (following === 0 ? '.' : following > 1 ? ',' : undefined)

function phraseOf(name: keyof Holding, isHeld: boolean, then: Mark): ReactNode {
  if (name === 'supports') return `hold ${isHeld ? 'what leans' : 'nothing'}${then ?? ''}`
  const phrase = PHRASES[name]
  if (phrase) return phrase(then)
  return (
    <>
      {labelOf(name).toLowerCase()}{' '}
      {name in NUMBERS ? (
        <NumberToken name={name as keyof typeof NUMBERS} then={then} />
      ) : (
        <ChoiceToken name={name as keyof typeof CHOICES} then={then} />
      )}
    </>
  )
}

function ExceptionSentence({ exception, index }: { exception: Exception; index: number }) {
  const setting = useWithin(index)
  const outer = usePlanSetting()
  const own = differsIn(exception)
  const said = MAY_DIFFER.filter((name) => own.includes(name))
  const word = undersidesOf(exception.where, outer.document)
  return (
    <PlanContext value={setting}>
      <Sentence>
        Under {word} {said.length === 0 && 'nothing differs yet.'}
        {said.map((name, i) => (
          <Fragment key={name}>
            {i > 0 && (i === said.length - 1 ? ' and ' : ' ')}
            {phraseOf(name, setting.document.decisions.supports, markBefore(said.length - 1 - i))}
          </Fragment>
        ))}{' '}
        <MenuTrigger>
          <Small aria-label={`What differs under ${word}`}>differs in …</Small>
          <List>
            <Menu
              aria-label={`What differs under ${word}`}
              selectionMode="multiple"
              selectedKeys={said}
              onSelectionChange={(keys) =>
                outer.change(
                  letDiffer(
                    outer.document,
                    index,
                    MAY_DIFFER.filter((name) => keys === 'all' || keys.has(name)),
                  ),
                )
              }
            >
              {MAY_DIFFER.map((name) => (
                <MenuItem key={name} id={name} textValue={labelOf(name)}>
                  {({ isSelected }) => (
                    <>
                      <i aria-hidden>{isSelected ? '●' : '○'}</i> {labelOf(name)}
                    </>
                  )}
                </MenuItem>
              ))}
            </Menu>
          </List>
        </MenuTrigger>
        <Drop
          aria-label={`Remove the exception under ${word}`}
          onPress={() =>
            outer.change({ exceptions: outer.document.exceptions.filter((_, e) => e !== index) })
          }
        />
      </Sentence>
    </PlanContext>
  )
}

/**
 * A second filament only where it gains most: under flat undersides. What that saves, and one press to take
 * it.
 */
function FlatAlone() {
  const { document, summary, filaments, broughtAlong, book } = usePlanSetting()
  const { decisions, exceptions } = document
  if (!summary || !decisions.supports || exceptions.some(({ interfaceFilament }) => interfaceFilament))
    return null
  const flat = summary.contacts.filter(({ kind, areaMm2 }) => kind === 'flat' && areaMm2 > 0)
  // What no tool gets to gains nothing by letting go.
  if (flat.every(({ access }) => access === 'closed')) return null
  if (decisions.interfaceFilament !== decisions.partFilament)
    return summary.contacts.some(({ kind }) => kind !== 'flat') ? (
      <Offer filament={filamentOf(document.filaments, decisions.interfaceFilament)} />
    ) : null
  // Of what is on the bench, the one that clings least.
  const part = filamentOf(document.filaments, decisions.partFilament)
  const least = filaments
    .filter(({ id }) => id !== part.id)
    .map((one) => ({ one, cling: clingGuess(part.family, one.family, book ?? bookOf(document)).cling }))
    .sort((a, b) => a.cling - b.cling)[0]
  return least && least.cling <= 1 ? <Offer filament={broughtAlong(least.one)} /> : null
}

function Offer({ filament }: { filament: PlanDocument['filaments'][number] }) {
  return (
    <CardToken
      label={`Only flat undersides in ${filament.name}?`}
      face={`only flat ones in ${filament.name}?`}
    >
      <OfferCard filament={filament} />
    </CardToken>
  )
}

function OfferCard({ filament }: { filament: PlanDocument['filaments'][number] }) {
  const { document, summary, meshKey, after, change } = usePlanSetting()
  const offer = { ...touchFlatAlone(document, filament.id), filaments: [filament] }
  const [then] = useWhatIf(meshKey, [after(offer)], summary !== null)
  return (
    <>
      <b>Touch only flat undersides with {filament.name}</b>
      <SoftLine as="span">
        All others are touched by the part’s own filament: they gain little by another one, and each of their
        layers costs two swaps.
      </SoftLine>
      <Differences now={summary} then={then} />
      <div>
        <Button main onPress={() => change(offer)}>
          Take it
        </Button>
      </div>
    </>
  )
}

const Drop = (props: { 'aria-label': string; onPress: () => void }) => (
  <Small {...props}>
    <X size={13} aria-hidden />
  </Small>
)

const Sentence = styled.p`
  border-left: ${length.edge} solid ${({ theme }) => theme.color.damson};
  padding-left: ${({ theme }) => theme.space.s};
`
const Small = styled(AriaButton)`
  font: 500 ${({ theme }) => `${theme.size.small} ${theme.font.sans}`};
  color: ${({ theme }) => theme.color.soft};
  background: none;
  border: 0;
  border-bottom: ${({ theme }) => theme.border.faint};
  padding: ${({ theme }) => `${theme.space.hair} ${theme.space.xs}`};
  cursor: pointer;
  vertical-align: baseline;
  svg {
    vertical-align: -${length.rule};
  }
  &[data-hovered] {
    color: ${({ theme }) => theme.color.damson};
  }
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
`
const Adding = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  margin: ${({ theme }) => `${theme.space.s} 0`};
`
const List = styled(Popover)`
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  box-shadow: ${({ theme }) => theme.floats};
  font-size: ${({ theme }) => theme.size.note};
  overflow: auto;
  [role^='menuitem'] {
    padding: ${({ theme }) => `${theme.space.sm} ${theme.space.m}`};
    cursor: pointer;
    outline: 0;
    &[data-focused] {
      background: ${({ theme }) => theme.color.damsonWash};
    }
    i {
      font-style: normal;
      color: ${({ theme }) => theme.color.damson};
    }
  }
`
