import { X } from 'lucide-react'
import type { Zone, ZoneShape } from '@tender/core/overhang'
import { useState } from 'react'
import styled from 'styled-components'
import { newId } from '../../keep/newId'
import { counted } from '../../format/numbers'
import { NO_DAB } from '../../drawings/space/zoneShapes'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { AngleInput, NumberInput, Segments, TextInput } from '../../ui/fields'
import { Sentence, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { usePartSetting } from './PartContext'

const KINDS = { hold: 'hold here', keepOff: 'keep off', show: 'show face' } as const

/** Where the maker wants support, where never, and which faces must look good. */
export function ZonesPanel() {
  const { zones, setZones, part, tool, setTool, needs } = usePartSetting()
  const [open, setOpen] = useState<string | null>(null)
  const put = (kind: Zone['kind'], shape: ZoneShape) => {
    const id = newId()
    const count = zones.filter((zone) => zone.kind === kind).length + 1
    const zone: Zone = {
      id,
      kind,
      name: `${NAMES[kind]} ${count}`,
      limitDeg: kind === 'hold' ? 0 : 90,
      shape,
    }
    setZones([...zones, zone])
    setOpen(id)
    setTool(shape.kind === 'brush' ? { kind: 'brush', zoneId: id } : { kind: 'look' })
  }
  const change = (id: string, changes: Partial<Zone>) =>
    setZones(zones.map((zone) => (zone.id === id ? { ...zone, ...changes } : zone)))
  const left = needs.needs?.islands.filter(({ keptOffBy }) => keptOffBy !== null) ?? []
  return (
    <>
      <Sheet aria-label="New zone">
        <Sentence>
          Mark where to hold, where never to, and what must look good. Zones go along when the part is turned.
        </Sentence>
        <Buttons>
          <Button
            onPress={() =>
              put('hold', { kind: 'brush', radiusMm: brushRadius(part.facts.sizeMm), atMm: NO_DAB })
            }
          >
            Brush a hold
          </Button>
          <Button
            onPress={() =>
              put('keepOff', { kind: 'brush', radiusMm: brushRadius(part.facts.sizeMm), atMm: NO_DAB })
            }
          >
            Brush a keep-off
          </Button>
          <Button
            onPress={() =>
              put('show', { kind: 'brush', radiusMm: brushRadius(part.facts.sizeMm), atMm: NO_DAB })
            }
          >
            Brush a show face
          </Button>
        </Buttons>
        <NewSolid put={put} />
      </Sheet>
      {left.length > 0 && (
        <Sheet role="alert" aria-label="Islands kept off">
          <p>
            {counted(left.length, 'island')} {left.length === 1 ? 'starts' : 'start'} in mid-air and{' '}
            {left.length === 1 ? 'is' : 'are'} kept off by{' '}
            {[...new Set(left.map(({ keptOffBy }) => `“${keptOffBy}”`))].join(', ')}. Nothing will be under{' '}
            {left.length === 1 ? 'it' : 'them'}.
          </p>
        </Sheet>
      )}
      <Sheet aria-label="Zones">
        <SheetTitle>{counted(zones.length, 'zone')}</SheetTitle>
        {zones.length === 0 && <SoftLine>None yet: everything is judged by the limits alone.</SoftLine>}
        {zones.map((zone) => (
          <One key={zone.id}>
            <Row>
              <button
                type="button"
                aria-expanded={open === zone.id}
                onClick={() => setOpen(open === zone.id ? null : zone.id)}
              >
                <b>{zone.name}</b>{' '}
                <SoftLine as="span">{`${KINDS[zone.kind]}, ${SHAPES[zone.shape.kind]}`}</SoftLine>
              </button>
              {zone.shape.kind === 'brush' && (
                <Button
                  aria-label={`Brush ${zone.name}`}
                  aria-pressed={tool.kind === 'brush' && tool.zoneId === zone.id}
                  onPress={() =>
                    setTool(
                      tool.kind === 'brush' && tool.zoneId === zone.id
                        ? { kind: 'look' }
                        : { kind: 'brush', zoneId: zone.id },
                    )
                  }
                >
                  {tool.kind === 'brush' && tool.zoneId === zone.id ? 'Done' : 'Brush'}
                </Button>
              )}
              <Button
                quiet
                aria-label={`Remove ${zone.name}`}
                onPress={() => setZones(zones.filter(({ id }) => id !== zone.id))}
              >
                <X size={15} aria-hidden />
              </Button>
            </Row>
            {open === zone.id && <ZoneFields zone={zone} change={(changes) => change(zone.id, changes)} />}
          </One>
        ))}
      </Sheet>
    </>
  )
}

const NAMES = { hold: 'Hold', keepOff: 'Keep off', show: 'Show' } as const
const SHAPES = { box: 'box', cylinder: 'cylinder', brush: 'brushed', body: 'a body of the file' } as const
const brushRadius = (size: readonly number[]) => Math.max(0.5, Math.round(Math.max(...size) / 4) / 10)

/** A box or a cylinder around the middle of the part, to be moved by its numbers. */
function NewSolid({ put }: { put: (kind: Zone['kind'], shape: ZoneShape) => void }) {
  const { part, drawing } = usePartSetting()
  const [kind, setKind] = useState<Zone['kind']>('hold')
  const box = drawing?.ownBox
  const quarter = (axis: number) => (box ? (box.max[axis] - box.min[axis]) / 4 : part.facts.sizeMm[axis] / 4)
  const middle = (axis: number) => (box ? (box.max[axis] + box.min[axis]) / 2 : 0)
  const place = (side: -1 | 1) =>
    [0, 1, 2].map((axis) => round(middle(axis) + side * quarter(axis))) as [number, number, number]
  return (
    <Solids>
      <Segments
        label="A solid zone"
        value={kind}
        onChange={setKind}
        options={(['hold', 'keepOff', 'show'] as const).map((value) => ({ value, label: KINDS[value] }))}
      />
      <Button isDisabled={!box} onPress={() => put(kind, { kind: 'box', minMm: place(-1), maxMm: place(1) })}>
        Box
      </Button>
      <Button
        isDisabled={!box}
        onPress={() =>
          put(kind, {
            kind: 'cylinder',
            footMm: [round(middle(0)), round(middle(1)), round(middle(2) - quarter(2))],
            radiusMm: round(Math.max(0.5, quarter(0))),
            heightMm: round(Math.max(0.5, 2 * quarter(2))),
          })
        }
      >
        Cylinder
      </Button>
    </Solids>
  )
}

const round = (value: number) => Math.round(value * 100) / 100

function ZoneFields({ zone, change }: { zone: Zone; change: (changes: Partial<Zone>) => void }) {
  const { shape } = zone
  const set = (next: ZoneShape) => change({ shape: next })
  return (
    <Fields>
      <TextInput
        label="Name"
        value={zone.name}
        onChange={(name) => name.trim() !== '' && change({ name: name.slice(0, 80) })}
      />
      <Segments
        label="What it does"
        value={zone.kind}
        onChange={(kind) => change({ kind, limitDeg: kind === 'hold' ? 0 : 90 })}
        options={(['hold', 'keepOff', 'show'] as const).map((value) => ({ value, label: KINDS[value] }))}
      />
      {zone.kind === 'hold' && (
        <AngleInput
          label="Hold everything past"
          value={zone.limitDeg}
          onChange={(limitDeg) => change({ limitDeg })}
          min={0}
          max={89}
        />
      )}
      {zone.kind === 'keepOff' && (
        <AngleInput
          label="Leave free up to"
          value={zone.limitDeg}
          onChange={(limitDeg) => change({ limitDeg })}
          min={1}
          max={90}
        />
      )}
      {shape.kind === 'brush' && (
        <NumberInput
          label="Radius of the brush"
          unit="mm"
          value={shape.radiusMm}
          min={0.1}
          max={500}
          step={0.5}
          onChange={(radiusMm) => radiusMm > 0 && set({ ...shape, radiusMm })}
        />
      )}
      {shape.kind === 'brush' && (
        <SoftLine>{counted(shape.atMm === NO_DAB ? 0 : shape.atMm.length / 3, 'dab')}</SoftLine>
      )}
      {shape.kind === 'box' && (
        <Triple>
          {['left', 'front', 'low'].map((side, axis) => (
            <NumberInput
              key={side}
              label={side}
              unit="mm"
              value={shape.minMm[axis]}
              step={1}
              max={shape.maxMm[axis] - 0.01}
              onChange={(value) =>
                Number.isFinite(value) && set({ ...shape, minMm: withAxis(shape.minMm, axis, value) })
              }
            />
          ))}
          {['right', 'back', 'high'].map((side, axis) => (
            <NumberInput
              key={side}
              label={side}
              unit="mm"
              value={shape.maxMm[axis]}
              step={1}
              min={shape.minMm[axis] + 0.01}
              onChange={(value) =>
                Number.isFinite(value) && set({ ...shape, maxMm: withAxis(shape.maxMm, axis, value) })
              }
            />
          ))}
        </Triple>
      )}
      {shape.kind === 'cylinder' && (
        <Triple>
          {['x', 'y', 'foot at'].map((side, axis) => (
            <NumberInput
              key={side}
              label={side}
              unit="mm"
              value={shape.footMm[axis]}
              step={1}
              onChange={(value) =>
                Number.isFinite(value) && set({ ...shape, footMm: withAxis(shape.footMm, axis, value) })
              }
            />
          ))}
          <NumberInput
            label="radius"
            unit="mm"
            value={shape.radiusMm}
            step={0.5}
            min={0.1}
            onChange={(radiusMm) => radiusMm > 0 && set({ ...shape, radiusMm })}
          />
          <NumberInput
            label="height"
            unit="mm"
            value={shape.heightMm}
            step={1}
            min={0.1}
            onChange={(heightMm) => heightMm > 0 && set({ ...shape, heightMm })}
          />
        </Triple>
      )}
    </Fields>
  )
}

const withAxis = (at: readonly [number, number, number], axis: number, value: number) =>
  at.map((old, i) => (i === axis ? value : old)) as unknown as [number, number, number]

const Solids = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: ${({ theme }) => theme.space.sm};
`
const One = styled.div`
  border-top: ${({ theme }) => theme.border.faint};
  padding-top: ${({ theme }) => theme.space.sm};
`
const Row = styled.div`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.sm};
  > button:first-child {
    flex: 1;
    border: 0;
    background: none;
    text-align: left;
    padding: ${({ theme }) => `${theme.space.xs} 0`};
    font: inherit;
    color: inherit;
    cursor: pointer;
  }
  > button:first-child:focus-visible {
    ${({ theme }) => theme.focus}
  }
`
const Fields = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.s};
  padding: ${({ theme }) => `${theme.space.xs} 0 ${theme.space.md}`};
`
const Triple = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: ${({ theme }) => theme.space.sm};
`
