import type { StoredFilament } from '@tender/contract'
import { clingGuess, filamentOf } from '@tender/core/bench'
import { bookOf, type PlanChange } from '@tender/core/decide'
import { Swatch } from '../../../ui/fields'
import { SoftLine } from '../../../ui/Sheet'
import { FILAMENT_ROLES, type FilamentDecision } from '../catalogue'
import { Differences } from '../Differences'
import { usePlanSetting } from '../PlanContext'
import { useWhatIf } from '../useWhatIf'
import { Head, Way } from './cardStyle'

/** Which filament plays a role; each with how it clings to what it touches and what it would change. */
export function FilamentCard({ name }: { name: FilamentDecision }) {
  const { document, summary, meshKey, filaments, after, change, broughtAlong, evidenceOf } = usePlanSetting()
  const current = document.decisions[name]
  const others = filaments.filter(({ id }) => id !== current)
  const taking = (one: StoredFilament): PlanChange => ({
    decisions: { [name]: one.id },
    filaments: [broughtAlong(one)],
  })
  const documents = others.map((one) => after(taking(one)))
  const thoughts = useWhatIf(meshKey, documents, summary !== null)
  const part = filamentOf(document.filaments, document.decisions.partFilament)
  return (
    <>
      <Head>
        <b>{FILAMENT_ROLES[name]}</b>
      </Head>
      {filaments.length === 0 && (
        <SoftLine>No filament is on the bench any more; the plan keeps the one it has.</SoftLine>
      )}
      {filaments.map((one) => (
        <Way key={one.id} type="button" aria-pressed={one.id === current} onClick={() => change(taking(one))}>
          <b>
            <Swatch style={{ background: one.colour }} /> {one.name}
          </b>
          {name === 'interfaceFilament' && (
            <SoftLine as="span">
              {clingWord(
                clingGuess(
                  part.family,
                  one.family,
                  bookOf(one.id === current ? document : documents[others.indexOf(one)]),
                ).cling,
              )}{' '}
              to {part.name};{' '}
              {evidenceOf(one.id === current ? document : documents[others.indexOf(one)]).upperGapMm?.readings
                ? 'its gap was measured'
                : 'its gap is a guess'}
            </SoftLine>
          )}
          {one.id !== current && summary && (
            <Differences now={summary} then={thoughts[others.indexOf(one)]} />
          )}
        </Way>
      ))}
    </>
  )
}

const clingWord = (cling: number) =>
  cling >= 4
    ? 'Welds'
    : cling >= 3
      ? 'Clings strongly'
      : cling >= 2
        ? 'Clings'
        : cling >= 1
          ? 'Clings weakly'
          : 'Does not cling'
