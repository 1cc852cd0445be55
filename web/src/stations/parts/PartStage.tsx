import { applyPlacing, turnFaceDown } from '@tender/core/mesh'
import type { NeedsReport, Wounds } from '../../workers/geometry.worker'
import { useEffect, useMemo } from 'react'
import styled from 'styled-components'
import { LayerDrawing } from '../../drawings/LayerDrawing'
import { SectionView } from '../../drawings/SectionView'
import { BridgeLines } from '../../drawings/space/BridgeLines'
import { FacePatches } from '../../drawings/space/FacePatches'
import type { Mark } from '../../drawings/space/Marks'
import { Measured, measuredSentence } from '../../drawings/space/Measured'
import { Soup, type Hit } from '../../drawings/space/PartBody'
import { SpaceView } from '../../drawings/space/SpaceView'
import { OverlapLines, WoundLines } from '../../drawings/space/WoundLines'
import { ZoneShapes } from '../../drawings/space/ZoneShapes'
import { usePalette } from '../../theme/useScheme'
import { counted, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { NumberInput, Segments } from '../../ui/fields'
import { Num, Sheet, SoftLine } from '../../ui/Sheet'
import { Failure, Skeleton } from '../../ui/States'
import { HachureLegend } from './HachureLegend'
import { usePartSetting } from './PartContext'
import { limitsOf } from './usePartLimits'
import { above, at, length, space } from '../../theme/measures'

type Props = {
  address: Readonly<Record<string, string>>
  setAddress: (changes: Record<string, string>) => void
  onPlace: (hit: Hit) => void
  /** What is wrong with the mesh, while the maker reads about it. */
  wounds: Wounds | null
  overlap: NeedsReport['overlap'] | undefined
  failure: { error: Error; retry: () => void } | null
}

const NO_SHELLS: Wounds['places'] = []
const SHELLS = {
  speck: { sign: '·', called: 'A speck' },
  nested: { sign: '⊙', called: 'A shell inside another one' },
  hollow: { sign: '○', called: 'A hollow' },
} as const

/** The part in space, cut upright, or layer by layer. */
export function PartStage({ address, setAddress, onPlace, wounds, overlap, failure }: Props) {
  const { draft, drawing, needs, limits, tool, setTool, measured, faces, relief, zones, change } =
    usePartSetting()
  const palette = usePalette()
  const view = address.view === 'section' || address.view === 'layer' ? address.view : 'space'
  const top = needs.needs?.heightMm ?? drawing?.sizeMm[2] ?? 0
  const zMm = Math.min(Math.max(0, Number(address.z ?? top / 2) || 0), top)
  const directionDeg = Number(address.turn ?? 0) || 0
  const atMm = Number(address.at ?? 0) || 0
  const h = limits.document.decisions.layerHeightMm
  useEffect(() => {
    if (view === 'space') return
    const onKey = (event: KeyboardEvent) => {
      if (
        (event.key !== '[' && event.key !== ']') ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        (event.target as HTMLElement).closest('input, textarea, [role=dialog]')
      )
        return
      event.preventDefault()
      setAddress({ z: Math.min(Math.max(0, zMm + (event.key === ']' ? h : -h)), top).toFixed(2) })
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [view, zMm, h, top, setAddress])
  const setZ = (z: number) => setAddress({ z: Math.min(Math.max(0, z), top).toFixed(2) })
  const shells = wounds?.places ?? NO_SHELLS
  const marks = useMemo<Mark[]>(() => {
    if (shells.length > 0)
      return shells.map(({ kind, atMm: at, sizeMm }, i) => ({
        key: `shell ${i}`,
        text: SHELLS[kind].sign,
        label: `${SHELLS[kind].called}, ${three(sizeMm)} mm long, ${at[2].toFixed(2)} mm up`,
        atMm: at,
        strong: kind === 'speck',
      }))
    const islands = needs.needs?.islands ?? []
    return islands.slice(0, 60).map(({ atMm: at, areaMm2 }, i) => ({
      key: `island ${i}`,
      text: String(i + 1),
      label: `Island ${i + 1} of ${islands.length}, ${at[2].toFixed(2)} mm up, ${three(areaMm2)} mm²`,
      atMm: at,
      strong: true,
    }))
  }, [needs.needs, shells])
  const standOn = (index: number) => {
    const normal = faces[index].normal
    change({ pose: { ...draft.pose, turn: [...turnFaceDown(normal)] } })
    setTool({ kind: 'look' })
  }
  const outlines = useMemo(
    () =>
      drawing
        ? faces.map(
            ({ outlineMm }) =>
              applyPlacing(
                { positionsMm: Float64Array.from(outlineMm), corners: new Uint32Array(0) },
                drawing.placing,
              ).positionsMm,
          )
        : [],
    [faces, drawing],
  )
  const limitDeg = Math.min(...limitsOf(limits.document))
  return (
    <Stage aria-label="The part as it lies">
      <Tools>
        <Segments
          label="Drawing"
          hideLabel
          value={view}
          onChange={(next) => setAddress({ view: next })}
          options={[
            { value: 'space', label: 'In space' },
            { value: 'section', label: 'Section' },
            { value: 'layer', label: 'Layer' },
          ]}
        />
        {view === 'space' && (
          <Button
            aria-pressed={tool.kind === 'measure'}
            onPress={() => setTool(tool.kind === 'measure' ? { kind: 'look' } : { kind: 'measure' })}
          >
            Measure
          </Button>
        )}
        {view === 'section' && (
          <>
            <Narrow>
              <NumberInput
                label="Cut turned by"
                unit="°"
                value={directionDeg}
                step={15}
                min={-360}
                max={360}
                onChange={(value) => Number.isFinite(value) && setAddress({ turn: String(value) })}
              />
            </Narrow>
            <Narrow>
              <NumberInput
                label="Beside the middle"
                unit="mm"
                value={atMm}
                step={1}
                min={-2000}
                max={2000}
                onChange={(value) => Number.isFinite(value) && setAddress({ at: String(value) })}
              />
            </Narrow>
          </>
        )}
        {view !== 'space' && (
          <Narrow>
            <NumberInput
              label="Height"
              unit="mm"
              value={Number(zMm.toFixed(2))}
              step={h}
              min={0}
              max={top}
              onChange={(value) => Number.isFinite(value) && setZ(value)}
            />
          </Narrow>
        )}
        <HachureLegend limitDeg={limitDeg} />
      </Tools>
      <Picture>
        {failure ? (
          <Failure error={failure.error} onRetry={failure.retry} />
        ) : !drawing ? (
          <Skeleton style={{ height: '100%' }} />
        ) : view === 'space' ? (
          <SpaceView
            drawing={drawing}
            limitsDeg={limitsOf(limits.document)}
            pointer={tool.kind === 'measure' ? 'pick' : tool.kind === 'brush' ? 'brush' : 'look'}
            onPlace={onPlace}
            marks={marks}
            says={`${draft.name}; strokes mark what leans more than ${Math.round(limitDeg)}° from vertical, rings mark ${counted(marks.length, shells.length > 0 ? 'shell' : 'island')}.`}
          >
            {tool.kind === 'face' && <FacePatches outlines={outlines} onPick={standOn} />}
            {wounds && <WoundLines wounds={wounds} />}
            {overlap && <OverlapLines outlines={overlap.outlines} />}
            {needs.needs && !wounds && <BridgeLines bridges={needs.needs.bridges} />}
            <ZoneShapes zones={zones} placing={drawing.placing} />
            {measured.length > 0 && <Measured hits={measured} />}
            {relief && relief.positions.length > 0 && (
              <Soup
                positions={relief.positions}
                colour={relief.mode === 'add' ? palette.interface : palette.wine}
                opacity={0.8}
              />
            )}
          </SpaceView>
        ) : needs.needs ? (
          view === 'section' ? (
            <SectionView
              outcome={needs.needs}
              directionDeg={directionDeg}
              atMm={atMm}
              zMm={zMm}
              onCut={setZ}
            />
          ) : (
            <LayerDrawing
              outcome={needs.needs}
              zMm={zMm}
              lines={false}
              lineWidthMm={limits.document.decisions.lineWidthMm}
            />
          )
        ) : (
          <Skeleton style={{ position: 'absolute', inset: 40 }} />
        )}
        {view !== 'space' && (
          <Height>
            <input
              type="range"
              aria-label="Height"
              min={0}
              max={top}
              step={h}
              value={zMm}
              onChange={(event) => setZ(Number(event.target.value))}
              aria-valuetext={`${zMm.toFixed(2)} mm`}
            />
          </Height>
        )}
      </Picture>
      {tool.kind === 'face' && <Hint role="status">Click the side that should lie on the bed.</Hint>}
      {tool.kind === 'measure' && <Hint role="status">{measuredSentence(measured)}</Hint>}
      {tool.kind === 'brush' && (
        <Hint role="status">Draw over the surface; the view stays still meanwhile.</Hint>
      )}
      {needs.working && needs.working.sinceMs > 400 && (
        <Foot role="status">
          <SoftLine>Looking for what leans too far ...</SoftLine>
        </Foot>
      )}
      {needs.error && (
        <Foot role="alert">
          <SoftLine>{needs.error.message}</SoftLine>
        </Foot>
      )}
      {drawing && view === 'space' && !needs.working && (
        <Size>
          <Num>{drawing.sizeMm.map(three).join(' × ')}</Num> mm
        </Size>
      )}
    </Stage>
  )
}

const Stage = styled(Sheet)`
  position: relative;
  padding: 0;
  display: flex;
  flex-direction: column;
  overflow: hidden;
  height: calc(100vh - ${above.part});
  min-height: ${length.xxl};
  position: sticky;
  top: ${space.m};
  @media ${at.medium} {
    position: relative;
    top: 0;
    height: 70vh;
  }
`
const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ theme }) => `${space.sm} ${theme.space.m}`};
  padding: ${({ theme }) => `${theme.space.s} ${theme.space.m}`};
  border-bottom: ${({ theme }) => theme.border.faint};
`
const Narrow = styled.div`
  width: ${length.s};
`
const Picture = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
  > svg {
    padding: ${space.s} ${length.control} ${space.s} ${space.s};
  }
`
const Height = styled.div`
  position: absolute;
  right: ${space.xs};
  top: ${space.m};
  bottom: ${space.m};
  input {
    writing-mode: vertical-lr;
    direction: rtl;
    height: 100%;
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
const Hint = styled.div`
  position: absolute;
  left: ${space.m};
  top: ${length.bar};
  max-width: calc(100% - ${space.xxl});
  padding: ${({ theme }) => `${theme.space.xs} ${theme.space.m}`};
  border-radius: ${({ theme }) => theme.radius.s};
  background: ${({ theme }) => theme.color.damson};
  color: ${({ theme }) => theme.color.onDamson};
`
const Foot = styled.div`
  position: absolute;
  right: ${space.m};
  bottom: ${space.m};
  padding: ${({ theme }) => `${theme.space.hair} ${theme.space.md}`};
  border-radius: ${({ theme }) => theme.radius.s};
  background: ${({ theme }) => theme.color.sheet};
`
const Size = styled(Foot)`
  color: ${({ theme }) => theme.color.soft};
  pointer-events: none;
`
