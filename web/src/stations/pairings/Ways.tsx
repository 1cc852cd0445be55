import {
  figuresOf,
  planFilament,
  planPrinter,
  type Part,
  type PlanFigures,
  type Printer,
  type StoredFilament,
} from '@tender/contract'
import type { FamilyBook } from '@tender/core/bench'
import { newDocument, startFromEvidence, type PlanDocument } from '@tender/core/decide'
import { useQuery } from '@tanstack/react-query'
import { transfer } from 'comlink'
import { useState } from 'react'
import { Link } from 'react-router'
import { meshBytes } from '../../api/client'
import { useList, usePages } from '../../api/useShelf'
import { chance, duration, grams, three } from '../../format/numbers'
import { Choice } from '../../ui/fields'
import { Sheet, SheetTitle, SoftLine, Table } from '../../ui/Sheet'
import { Skeleton } from '../../ui/Skeleton'
import { unwrap } from '../../workers/answer'
import { filing } from '../../workers/geometry'
import { usePairings } from './usePairings'
import { usualPrinter } from '../bench/usualPrinter'

type Way = { readonly says: string; readonly interface: StoredFilament; readonly stand: StoredFilament }

/** Ways to use a pairing on a part of the maker's, each with its price, worked out on the part itself. */
export function Ways({ part, touching }: { part: StoredFilament; touching: StoredFilament }) {
  const parts = useList('parts').data?.items ?? []
  const newest = usePages('plans', { order: '-touched' }).data?.items[0]
  const printer = usualPrinter(useList('printers').data?.items ?? [])
  const [chosen, setChosen] = useState<string | null>(null)
  // The part of the newest plan is most likely the one in mind.
  const subject = parts.find(({ id }) => id === (chosen ?? newest?.partId)) ?? parts[0]
  if (!subject || !printer) return null
  const itself = part.id === touching.id
  const ways: Way[] = [
    ...(itself
      ? []
      : [
          {
            says: `${touching.name} in the touch layers, ${part.name} stands`,
            interface: touching,
            stand: part,
          },
          { says: `${touching.name} in the whole stand`, interface: touching, stand: touching },
        ]),
    { says: `${part.name} only`, interface: part, stand: part },
  ]
  return (
    <Sheet aria-label="Ways to use it">
      <SheetTitle>
        Ways to use it on the <Link to={`/parts/${subject.id}`}>{subject.name}</Link>
      </SheetTitle>
      <Table>
        <thead>
          <tr>
            <th>Way</th>
            <th className="right">grams</th>
            <th className="right">time</th>
            <th className="right">swaps</th>
            <th className="right">clean</th>
          </tr>
        </thead>
        <tbody>
          {ways.map((way) => (
            <WayRow key={way.says} way={way} part={part} subject={subject} printer={printer} />
          ))}
        </tbody>
      </Table>
      {parts.length > 1 && (
        <Choice
          label="On another part"
          value={subject.id}
          onChange={setChosen}
          options={parts.map(({ id, name }) => ({ value: id, label: name }))}
        />
      )}
      <SoftLine>
        Worked out on {printer.name} with what the trials say; everything else as plans start. “Clean” is the
        chance that a contact lets go and looks fine.
      </SoftLine>
    </Sheet>
  )
}

function WayRow({
  way,
  part,
  subject,
  printer,
}: {
  way: Way
  part: StoredFilament
  subject: Part
  printer: Printer
}) {
  const { trials, book } = usePairings()
  const document = startFromEvidence(documentOf(way, part, subject, printer, book), trials, book)
  const figures = useQuery({
    queryKey: [
      'way',
      subject.meshSha256,
      JSON.stringify(document.decisions),
      document.printer.id,
      subject.pose,
    ],
    staleTime: Infinity,
    queryFn: ({ signal }) =>
      inTurn(() => {
        // Another part may have been chosen while this one waited for its turn.
        signal.throwIfAborted()
        return priceOf(subject, document, signal)
      }),
  })
  if (figures.isError)
    return (
      <tr>
        <td>{way.says}</td>
        <td colSpan={4}>{figures.error.message}</td>
      </tr>
    )
  const { data } = figures
  return (
    <tr aria-busy={!data}>
      <td>{way.says}</td>
      {data ? (
        <>
          <td className="right">{grams(data.massG)}</td>
          <td className="right">{duration(data.timeS)}</td>
          <td className="right">{three(data.swaps)}</td>
          <td className="right">{data.pTender === null ? '' : chance(data.pTender)}</td>
        </>
      ) : (
        <td colSpan={4}>
          <Skeleton />
        </td>
      )}
    </tr>
  )
}

async function priceOf(subject: Part, document: PlanDocument, signal: AbortSignal): Promise<PlanFigures> {
  const bytes = await meshBytes(subject.meshSha256, signal)
  const worker = filing()
  await unwrap(worker.hold(subject.meshSha256, transfer(bytes, [bytes.buffer])))
  return figuresOf(await unwrap(worker.whatIf(subject.meshSha256, document)))
}

/**
 * One way after the other: each goes on from the slices of the one before, and the first is there soonest.
 */
let last: Promise<unknown> = Promise.resolve()
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = last.then(work)
  last = mine.catch(() => undefined)
  return mine
}

function documentOf(
  way: Way,
  part: StoredFilament,
  subject: Part,
  printer: Printer,
  book: FamilyBook | undefined,
): PlanDocument {
  const filaments = [part, way.interface, way.stand]
    .filter((one, i, all) => all.findIndex((other) => other.id === one.id) === i)
    .map((one) => planFilament(one, printer))
  return newDocument({
    name: way.says.slice(0, 80),
    pose: subject.pose,
    printer: planPrinter(printer),
    filaments,
    zones: subject.zones,
    bodies: subject.bodies,
    book,
    decisions: { placement: 'anywhere', interfaceFilament: way.interface.id, standFilament: way.stand.id },
  })
}
