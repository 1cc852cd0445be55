import { knownTrial, knownTrials, type Trial } from '@tender/contract'
import { samePrint, stepsOf, type KnownTrial, type Readings } from '@tender/core/trial'
import { useMemo, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useList, useRemove } from '../../api/useShelf'
import { One } from '../../frame/One'
import { counted, day, inUnit, mm, percent } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Toggle } from '../../ui/fields'
import { Page } from '../../ui/Page'
import { Circumstances, RecordColumns, Unsaved } from '../../ui/RecordColumns'
import { Num, SoftLine } from '../../ui/Sheet'
import { useAddressState } from '../../ui/useAddressState'
import { PrintCoupon } from '../printRuns/PrintCoupon'
import { Simulated, StandInButton } from '../printRuns/StandIns'
import { WatchLink } from '../printRuns/WatchLink'
import { Answer } from './answers/Answer'
import { AsideReadings } from './AsideReadings'
import { CouponInput } from './CouponInput'
import { ReadingsMenu } from './ReadingsMenu'
import { TrialDialog } from './TrialDialog'
import { KINDS } from './trialKinds'
import { useReadings } from './useReadings'

/** One printed test: its coupon to be read, and what the readings say. */
export function TrialPage() {
  const { id = '' } = useParams()
  return (
    <One name="trials" id={id}>
      {(trial) => <Reading key={trial.id} trial={trial} />}
    </One>
  )
}

function Reading({ trial }: { trial: Trial }) {
  const { readings, read, unsaved, problem, aside, putMine, drop } = useReadings(trial)
  const [address, setAddress] = useAddressState()
  const [changing, setChanging] = useState(false)
  const [alone, setAlone] = useState(false)
  const navigate = useNavigate()
  const remove = useRemove('trials')
  const filaments = useList('filaments')
  const { coupon } = trial
  const names = { a: trial.partFilamentName, b: trial.supportFilamentName }
  const colourOf = (id: string) => filaments.data?.items.find((one) => one.id === id)?.colour ?? '#a5a8b4'
  const own = useMemo(() => knownTrial({ ...trial, readings }), [trial, readings])
  const others = useOtherPrints(own)
  const known = useMemo(() => (alone ? own : pooled([own, ...others])), [alone, own, others])
  return (
    <Page
      over={`${KINDS[coupon.kind].name}, printed ${day(trial.printedOn)}`}
      title={trial.name}
      actions={
        <>
          <Circumstances>
            <Num>{mm(trial.layerHeightMm)}</Num> layers, <Num>{mm(trial.nozzleMm)}</Num> nozzle on{' '}
            {trial.printerName}
            <br />
            <Num>{inUnit(trial.speedMmS, 'mm/s')}</Num>, fan <Num>{percent(trial.fanPercent / 100)}</Num>,
            spool {trial.damp ? 'damp' : 'dry'}
          </Circumstances>
          <PrintCoupon trial={trial} read={readings.length > 0} />
          <ReadingsMenu trial={trial} known={own} onRead={read} />
          {/* Of combs stand-ins know nothing: their nozzles are where they should be. */}
          <StandInButton
            of="trials"
            item={trial}
            read={readings.length > 0}
            left={coupon.kind === 'offset' ? 0 : stepsOf(coupon).length - readings.length}
          />
          <Button onPress={() => setChanging(true)}>Change</Button>
          <Button
            quiet
            onPress={() => {
              remove.mutate({ id: trial.id, name: trial.name })
              void navigate('/trials')
            }}
          >
            Remove
          </Button>
        </>
      }
    >
      <p>
        {trial.simulated && <Simulated />}
        {printedIn(trial)}
        {trial.note && ` ${trial.note}`}
        {trial.leftOut && ' It is left out of what plans go by.'}
        <WatchLink of={{ kind: 'trial', id: trial.id }} />
        {unsaved > 0 && (
          <Unsaved role="status">
            {' '}
            {counted(unsaved, 'reading')} not with the server yet. {problem}
          </Unsaved>
        )}
      </p>
      <AsideReadings coupon={coupon} names={names} aside={aside} onPut={putMine} onDrop={drop} />
      <RecordColumns>
        <CouponInput
          trialId={trial.id}
          coupon={coupon}
          readings={readings}
          photos={trial.photos}
          names={names}
          colours={{ a: colourOf(trial.partFilamentId), b: colourOf(trial.supportFilamentId) }}
          selected={address.step ?? stepsOf(coupon)[0].key}
          onSelect={(step) => setAddress({ step })}
          onRead={read}
        />
        <div>
          <Answer trial={trial} known={known} names={names} />
          {others.length > 0 && (
            <div>
              <Toggle value={!alone} onChange={(together) => setAlone(!together)}>
                Read together with {others.length === 1 ? 'the other print' : `${others.length} other prints`}{' '}
                of it
              </Toggle>
              <SoftLine>
                {others.map(({ id, name }, i) => (
                  <span key={id}>
                    {i > 0 && ', '}
                    <Link to={`/trials/${id}`}>{name}</Link>
                  </span>
                ))}
                : same filaments, printer, layers, lines, speed and fan.
              </SoftLine>
            </div>
          )}
        </div>
      </RecordColumns>
      {changing && <TrialDialog trial={trial} onClose={() => setChanging(false)} />}
    </Page>
  )
}

function printedIn({ coupon, partFilamentName: part, supportFilamentName: other }: Trial): string {
  switch (coupon.kind) {
    case 'fan':
    case 'span':
      return `Printed in ${part}.`
    case 'gap':
      return part === other ? `${part} on itself.` : `${part}, touched by ${other}.`
    case 'purge':
      return `${part} and ${other} through one nozzle.`
    case 'offset':
      return `${part} from the first nozzle, ${other} from the second.`
  }
}

/** Other prints of the same coupon under the same circumstances that have been read and were not left out. */
function useOtherPrints(own: KnownTrial): readonly KnownTrial[] {
  const trials = useList('trials')
  const { id, kind, conditions } = own
  const all = trials.data?.items
  return useMemo(
    () =>
      all
        ? knownTrials(all).filter(
            (other) =>
              other.id !== id &&
              other.readings.length > 0 &&
              samePrint(other, { id, kind, conditions } as KnownTrial),
          )
        : [],
    [all, id, kind, conditions],
  )
}

const pooled = (trials: readonly KnownTrial[]): Readings =>
  ({ kind: trials[0].kind, readings: trials.flatMap((trial) => trial.readings as never[]) }) as Readings
