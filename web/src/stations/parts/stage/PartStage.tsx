import styled from 'styled-components'
import { LayerDrawing } from '../../../drawings/LayerDrawing'
import { SectionView } from '../../../drawings/SectionView'
import { measuredSentence } from '../../../drawings/space/Measured'
import type { Hit } from '../../../drawings/space/PartBody'
import { three } from '../../../format/numbers'
import { above, at, length, space } from '../../../theme/measures'
import { Num, Sheet, SoftLine } from '../../../ui/Sheet'
import { Skeleton } from '../../../ui/Skeleton'
import { Failure } from '../../../ui/States'
import type { NeedsReport, Wounds } from '../../../workers/partWork'
import { useTold } from '../../../workers/told'
import type { NeedsOutcome } from '../../../workers/useNeeds'
import { usePartSetting } from '../PartContext'
import { limitsOf } from '../usePartLimits'
import { PartInSpace } from './PartInSpace'
import { StageTools } from './StageTools'
import { useHeight } from './useHeight'

type Props = {
  address: Readonly<Record<string, string>>
  setAddress: (changes: Record<string, string>) => void
  onPlace: (hit: Hit) => void
  /** What is wrong with the mesh, while the maker reads about it. */
  wounds: Wounds | null
  overlap: NeedsReport['overlap'] | undefined
  failure: { error: Error; retry: () => void } | null
}

/** The part in space, cut upright, or layer by layer. */
export function PartStage({ address, setAddress, onPlace, wounds, overlap, failure }: Props) {
  const { drawing, needs, limits, tool, measured } = usePartSetting()
  const view = address.view === 'section' || address.view === 'layer' ? address.view : 'space'
  const cut = { directionDeg: Number(address.turn ?? 0) || 0, atMm: Number(address.at ?? 0) || 0 }
  const { layerHeightMm, lineWidthMm } = limits.document.decisions
  const height = useHeight({
    typed: address.z,
    topMm: needs.needs?.heightMm ?? drawing?.sizeMm[2] ?? 0,
    layerMm: layerHeightMm,
    keys: view !== 'space',
    setAddress,
  })
  const { zMm, setZ } = height
  return (
    <Stage aria-label="The part as it lies">
      <StageTools
        view={view}
        cut={cut}
        height={height}
        steepestDeg={Math.min(...limitsOf(limits.document))}
        setAddress={setAddress}
      />
      <Picture>
        {failure ? (
          <Failure error={failure.error} onRetry={failure.retry} />
        ) : !drawing ? (
          <Skeleton style={{ height: '100%' }} />
        ) : view === 'space' ? (
          <PartInSpace onPlace={onPlace} wounds={wounds} overlap={overlap} />
        ) : !needs.needs ? (
          <Skeleton style={{ position: 'absolute', inset: 40 }} />
        ) : view === 'section' ? (
          <SectionView outcome={needs.needs} {...cut} zMm={zMm} onCut={setZ} />
        ) : (
          <LayerDrawing outcome={needs.needs} zMm={zMm} lines={false} lineWidthMm={lineWidthMm} />
        )}
        {view !== 'space' && (
          <Upright>
            <input
              type="range"
              aria-label="Height"
              min={0}
              max={height.topMm}
              step={layerHeightMm}
              value={zMm}
              onChange={(event) => setZ(Number(event.target.value))}
              aria-valuetext={`${zMm.toFixed(2)} mm`}
            />
          </Upright>
        )}
      </Picture>
      <Hints>
        {tool.kind === 'face' && <Hint role="status">Click the side that should lie on the bed.</Hint>}
        {tool.kind === 'measure' && <Hint role="status">{measuredSentence(measured)}</Hint>}
        {tool.kind === 'brush' && (
          <Hint role="status">Draw over the surface; the view stays still meanwhile.</Hint>
        )}
        {needs.error && <Hint role="alert">{needs.error.message}</Hint>}
      </Hints>
      {needs.working && <Looking progress={needs.progress} />}
      {drawing && view === 'space' && !needs.working && (
        <Size>
          <Num>{drawing.sizeMm.map(three).join(' × ')}</Num> mm
        </Size>
      )}
    </Stage>
  )
}

/** Told once it has taken a while. */
function Looking({ progress }: Pick<NeedsOutcome, 'progress'>) {
  const { sinceMs } = useTold(progress)
  return sinceMs > 400 ? (
    <Foot role="status">
      <SoftLine>Looking for what leans too far ...</SoftLine>
    </Foot>
  ) : null
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
const Picture = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
  > svg {
    padding: ${space.s} ${length.control} ${space.s} ${space.s};
  }
`
const Upright = styled.div`
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
const Hints = styled.div`
  position: absolute;
  left: ${space.m};
  top: ${length.bar};
  max-width: calc(100% - ${space.xxl});
  display: grid;
  justify-items: start;
  gap: ${space.xs};
  pointer-events: none;
`
const Hint = styled.div`
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
