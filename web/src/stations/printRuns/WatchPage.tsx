import type { Part, StoredTakeOff } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { Link, useParams } from 'react-router'
import { HeightRibbon } from '../../drawings/HeightRibbon'
import { LayerDrawing } from '../../drawings/LayerDrawing'
import { One } from '../../frame/One'
import { day } from '../../format/numbers'
import { Sheet } from '../../ui/Sheet'
import { Skeleton } from '../../ui/Skeleton'
import { useMesh } from '../../workers/useMesh'
import { usePlanOutcome } from '../../workers/usePlanOutcome'
import { Watching } from './Watching'

/** A plan while it is printed: where its nozzle is in the layer, and how high in the ribbon. */
export function WatchPage() {
  const { id = '' } = useParams()
  return (
    <One name="takeOffs" id={id}>
      {(found) => <WithPart takeOff={found} />}
    </One>
  )
}

function WithPart({ takeOff }: { takeOff: StoredTakeOff }) {
  return (
    <One name="parts" id={takeOff.partId}>
      {(found) => <WithPlan takeOff={takeOff} part={found} />}
    </One>
  )
}

function WithPlan({ takeOff, part }: { takeOff: StoredTakeOff; part: Part }) {
  const document = takeOff.document as PlanDocument
  const mesh = useMesh(part.meshSha256)
  const { outcome } = usePlanOutcome(mesh.data, document)
  return (
    <Watching
      of={{ kind: 'takeOff', id: takeOff.id }}
      over={
        <>
          <Link to={`/take-offs/${takeOff.id}`}>{takeOff.name}</Link>, {day(takeOff.printedOn)}
        </>
      }
      from="Open its plan and choose “Print it from here” under “Take to printer”."
      next={{ to: `/take-offs/${takeOff.id}`, word: 'Take it off' }}
      drawing={({ atMm, zMm }) =>
        outcome ? (
          <LayerDrawing
            outcome={outcome}
            zMm={Math.max(0.01, zMm - 1e-3)}
            lines
            lineWidthMm={document.decisions.lineWidthMm}
            nozzleMm={atMm}
          />
        ) : (
          <Skeleton style={{ height: 360 }} />
        )
      }
      below={({ zMm, layer }) =>
        outcome && (
          <Sheet aria-label="Height">
            <HeightRibbon
              summary={outcome.summary}
              layerHeightMm={document.decisions.layerHeightMm}
              zMm={zMm}
              layer={layer}
            />
          </Sheet>
        )
      }
    />
  )
}
