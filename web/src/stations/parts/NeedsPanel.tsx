import { FULL_COMPASS } from '@tender/core/trial'
import type { ReactNode } from 'react'
import styled from 'styled-components'
import { degrees, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { AngleInput, Choice, NumberInput, Segments } from '../../ui/fields'
import { Num, Sentence, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { needsSentence } from './needsSentence'
import { usePartSetting } from './PartContext'
import { WhatIfStrip } from './WhatIfStrip'
import { length } from '../../theme/measures'

/** What of the part needs holding, by which limits, and what would change it. */
export function NeedsPanel({ setAddress }: { setAddress: (changes: Record<string, string>) => void }) {
  const { needs, limits } = usePartSetting()
  const { document, evidence, wishes, wish, forget, filament, filaments, choose } = limits
  const { decisions } = document
  const sides = evidence.freeAngleDeg?.sidesDeg
  const show = (zMm: number) => setAddress({ view: 'layer', z: (zMm + 0.01).toFixed(2) })
  const found = needs.needs
  // Values that readings may replace are not told as what the part is judged by.
  if (!limits.ready)
    return (
      <Sheet aria-label="What needs holding">
        <SoftLine>
          {limits.lost ? 'Not judged: what this bench copes with did not arrive.' : 'Looking ...'}
        </SoftLine>
      </Sheet>
    )
  return (
    <>
      <Sheet aria-label="What needs holding">
        {found ? (
          <Sentence>{needsSentence(found)}</Sentence>
        ) : (
          <SoftLine>{needs.error ? needs.error.message : 'Looking ...'}</SoftLine>
        )}
      </Sheet>
      <Sheet aria-label="Limits">
        <SheetTitle>Judged by</SheetTitle>
        {filament ? (
          <Choice
            label="Printed in"
            value={filament.id}
            onChange={choose}
            options={filaments.map(({ id, name, colour }) => ({ value: id, label: name, swatch: colour }))}
          />
        ) : (
          <SoftLine>No filament and printer on the bench yet; these are starting guesses.</SoftLine>
        )}
        <NumberInput
          label="Layer height"
          unit="mm"
          value={decisions.layerHeightMm}
          step={0.02}
          min={0.04}
          max={1.2}
          onChange={(layerHeightMm) => Number.isFinite(layerHeightMm) && wish({ layerHeightMm })}
        />
        <AngleInput
          label="Free angle"
          value={decisions.freeAngleDeg}
          onChange={(freeAngleDeg) => wish({ freeAngleDeg })}
          min={5}
          max={89}
        />
        {sides && (
          <>
            <Segments
              label="Which limit counts"
              value={decisions.sideAnglesDeg ? 'own' : 'all'}
              onChange={(value) => wish({ sideAnglesDeg: value === 'own' ? sides : null })}
              options={[
                { value: 'all', label: 'this one all around' },
                { value: 'own', label: 'each side its own' },
              ]}
            />
            {decisions.sideAnglesDeg && (
              <SoftLine>
                {FULL_COMPASS.map((side, k) => `${side} ${degrees(decisions.sideAnglesDeg![k])}`).join(', ')}.
              </SoftLine>
            )}
          </>
        )}
        <NumberInput
          label="Free span"
          unit="mm"
          value={decisions.freeSpanMm}
          step={1}
          min={0}
          max={200}
          onChange={(freeSpanMm) => Number.isFinite(freeSpanMm) && wish({ freeSpanMm })}
        />
        {Object.keys(wishes).length > 0 && (
          <Buttons>
            <Button onPress={forget}>Back to what the readings say</Button>
          </Buttons>
        )}
        {evidence.freeAngleDeg && <SoftLine>{evidence.freeAngleDeg.sentence}</SoftLine>}
      </Sheet>
      {found && found.islands.length > 0 && (
        <Places
          title={`Islands: ${found.islands.length}`}
          places={found.islands.map(({ atMm, areaMm2, keptOffBy }, i) => ({
            zMm: atMm[2],
            children: (
              <>
                {i + 1}: {three(areaMm2)} mm²{keptOffBy && `, kept off by “${keptOffBy}”`}
              </>
            ),
          }))}
          onShow={show}
        />
      )}
      {found && found.bridges.length > 0 && (
        <Places
          title={`Bridges: ${found.bridges.length}`}
          places={found.bridges.map(({ zMm, spanMm, free }) => ({
            zMm,
            children: (
              <>
                {three(spanMm)} mm, {free ? 'stays free' : 'is held'}
              </>
            ),
          }))}
          onShow={show}
        />
      )}
      {found && found.patches.length > 0 && (
        <Places
          title={`Undersides: ${found.patches.length}`}
          places={found.patches.map(({ kind, access, areaMm2, lowestMm }) => ({
            zMm: lowestMm,
            children: (
              <>
                {KINDS[kind]}, {three(areaMm2)} mm², {ACCESS[access]}
              </>
            ),
          }))}
          onShow={show}
        />
      )}
      <WhatIfStrip />
    </>
  )
}

const KINDS = { flat: 'flat', sloped: 'sloped', rounded: 'rounded', tip: 'a tip' } as const
const ACCESS = { open: 'within reach', narrow: 'reached from few sides', closed: 'out of reach' } as const

const MOST_SHOWN = 40

function Places({
  title,
  places,
  onShow,
}: {
  title: string
  places: readonly { zMm: number; children: ReactNode }[]
  onShow: (zMm: number) => void
}) {
  return (
    <Sheet aria-label={title}>
      <SheetTitle>{title}</SheetTitle>
      <List>
        {places.slice(0, MOST_SHOWN).map(({ zMm, children }, i) => (
          <li key={i}>
            <button type="button" onClick={() => onShow(zMm)}>
              <Num>{zMm.toFixed(2)}</Num>&thinsp;mm
            </button>
            <span>{children}</span>
          </li>
        ))}
      </List>
      {places.length > MOST_SHOWN && <SoftLine>and {places.length - MOST_SHOWN} more</SoftLine>}
    </Sheet>
  )
}

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: ${({ theme }) => theme.space.hair};
  max-height: ${length.m};
  overflow-y: auto;
  li {
    display: grid;
    grid-template-columns: ${length.xs} 1fr;
    align-items: baseline;
  }
  button {
    border: 0;
    background: none;
    padding: ${({ theme }) => `${theme.space.hair} 0`};
    text-align: left;
    color: ${({ theme }) => theme.color.damson};
    cursor: pointer;
    text-decoration: underline;
    text-underline-offset: ${length.edge};
    font: inherit;
  }
  button:focus-visible {
    ${({ theme }) => theme.focus}
  }
`
