import type { Part, Plan } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { MOST_VARIANTS, type BedPlace } from '@tender/core/print'
import { useMutation } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { useState } from 'react'
import styled from 'styled-components'
import { meshBytes } from '../../api/client'
import { counted, duration } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { FormProblem } from '../../ui/FormProblem'
import { saveFile, slug } from '../../ui/saveFile'
import { SoftLine } from '../../ui/Sheet'
import { unwrap } from '../../workers/answer'
import { filing, proxy } from '../../workers/geometry'
import { useNewBed } from '../takeOffs/useNewTakeOff'

/** Plans of a part side by side on one bed, as one file; each has a tag with its number of dots. */
export function OneBed({
  part,
  plans,
  resultOf,
}: {
  part: Part
  plans: readonly Plan[]
  /** The result of a plan, once it is worked out. */
  resultOf: (planId: string) => string | undefined
}) {
  const [share, setShare] = useState(0)
  const write = useMutation({
    mutationFn: async () => {
      setShare(0)
      const bytes = await meshBytes(part.meshSha256)
      const documents = plans.map(({ document }) => document as unknown as PlanDocument)
      return unwrap(
        filing().bed(
          Date.now(),
          part.meshSha256,
          transfer(bytes, [bytes.buffer]),
          documents,
          proxy(setShare),
        ),
      )
    },
    onSuccess: ({ file }) => saveFile(`${slug(part.name)}-side-by-side.gcode`, 'text/x.gcode', file),
  })
  const printed = useNewBed()
  const results = plans.map(({ id }) => resultOf(id))
  if (plans.length < 2 || plans.length > MOST_VARIANTS) return null
  if (plans.some(({ document }) => document.printer.id !== plans[0].document.printer.id))
    return <SoftLine>They are for different printers, so they do not go on one bed.</SoftLine>
  return (
    <Frame>
      {write.isPending ? (
        <div role="status">
          <progress value={share} aria-label="Writing all of them" /> Writing all of them{' '}
          <Button onPress={() => void filing().cancel()}>Stop</Button>
        </div>
      ) : (
        <Button onPress={() => write.mutate()}>Print them on one bed</Button>
      )}
      {write.data && (
        <>
          <Bed places={write.data.places} bedMm={plans[0].document.printer.bedMm} />
          <SoftLine role="status">
            Written: {duration(write.data.timeS)}, {counted(write.data.swaps, 'swap')}, printed together by
            layer. Each tag has raised dots:{' '}
            {write.data.places.map(({ name, dots }) => `${dots} for ${name}`).join(', ')}.
            {write.data.leavesPurge && ' Its swaps do not purge: let the swap block of the printer do it.'}
          </SoftLine>
        </>
      )}
      {write.data && (
        <Button
          isDisabled={printed.isPending || results.some((id) => id === undefined)}
          onPress={() =>
            printed.mutate(
              plans.map(({ id, document }, n) => ({
                planId: id,
                part,
                resultId: results[n]!,
                document: document as unknown as PlanDocument,
              })),
            )
          }
        >
          They are printed
        </Button>
      )}
      <FormProblem error={write.error ?? printed.error} />
    </Frame>
  )
}

/** The bed from above, with what stands where. */
function Bed({ places, bedMm: [w, d] }: { places: readonly BedPlace[]; bedMm: readonly [number, number] }) {
  return (
    <svg
      viewBox={`-2 ${-d - 2} ${w + 4} ${d + 4}`}
      role="img"
      aria-label={`The bed with ${counted(places.length, 'variant')}`}
    >
      <rect x="0" y={-d} width={w} height={d} rx="4" className="bed" />
      {places.map(({ name, dots, atMm: [x, y], sizeMm: [sx, sy] }) => (
        <g key={name}>
          <rect x={x} y={-y - sy} width={sx} height={sy} rx="2" className="place" />
          {Array.from({ length: dots }, (_, n) => (
            <circle key={n} cx={x + 3 + n * 4} cy={-y - 3} r="1.6" className="dot" />
          ))}
        </g>
      ))}
    </svg>
  )
}

const Frame = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.s};
  justify-items: start;
  progress {
    width: 140px;
    accent-color: ${({ theme }) => theme.color.damson};
  }
  svg {
    width: 220px;
  }
  .bed {
    fill: ${({ theme }) => theme.color.paper};
    stroke: ${({ theme }) => theme.color.line};
  }
  .place {
    fill: ${({ theme }) => theme.color.part};
    fill-opacity: 0.55;
    stroke: ${({ theme }) => theme.color.partDeep};
  }
  .dot {
    fill: ${({ theme }) => theme.color.damson};
  }
`
