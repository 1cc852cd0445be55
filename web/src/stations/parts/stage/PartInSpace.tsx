import { applyPlacing, turnFaceDown } from '@tender/core/mesh'
import { useMemo } from 'react'
import { BridgeLines } from '../../../drawings/space/BridgeLines'
import { FacePatches } from '../../../drawings/space/FacePatches'
import { Measured } from '../../../drawings/space/Measured'
import { Soup, type Hit } from '../../../drawings/space/PartBody'
import { SpaceView } from '../../../drawings/space/SpaceView'
import { OverlapLines, WoundLines } from '../../../drawings/space/WoundLines'
import { ZoneShapes } from '../../../drawings/space/ZoneShapes'
import { counted } from '../../../format/numbers'
import { usePalette } from '../../../theme/useScheme'
import type { NeedsReport, Wounds } from '../../../workers/partWork'
import { usePartSetting } from '../PartContext'
import { limitsOf } from '../usePartLimits'
import { stageMarks } from './stageMarks'

const NO_SHELLS: Wounds['places'] = []

/** The part as it lies, with what leans too far, what is wrong with it, and what the maker put on it. */
export function PartInSpace({
  onPlace,
  wounds,
  overlap,
}: {
  readonly onPlace: (hit: Hit) => void
  /** What is wrong with the mesh, while the maker reads about it. */
  readonly wounds: Wounds | null
  readonly overlap: NeedsReport['overlap'] | undefined
}) {
  const { draft, drawing, needs, limits, tool, setTool, measured, faces, relief, zones, change } =
    usePartSetting()
  const palette = usePalette()
  const shells = wounds?.places ?? NO_SHELLS
  const marks = useMemo(() => stageMarks(shells, needs.needs?.islands ?? []), [needs.needs, shells])
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
  if (!drawing) return null
  const limitsDeg = limitsOf(limits.document)
  return (
    <SpaceView
      drawing={drawing}
      limitsDeg={limitsDeg}
      pointer={tool.kind === 'measure' ? 'pick' : tool.kind === 'brush' ? 'brush' : 'look'}
      onPlace={onPlace}
      marks={marks}
      says={`${draft.name}; strokes mark what leans more than ${Math.round(Math.min(...limitsDeg))}° from vertical, rings mark ${counted(marks.length, shells.length > 0 ? 'shell' : 'island')}.`}
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
  )
}
