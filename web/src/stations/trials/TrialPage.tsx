import type { Trial } from '@tender/contract'
import { FAN_DEFAULTS, fanReadings, fanSentence, fitFan, fitGap, gapReadings, gapSentence, stepsOf, type Grade } from '@tender/core/trial'
import { useDeferredValue, useMemo, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import styled from 'styled-components'
import { useOne, useRemove } from '../../api/useShelf'
import { chance, counted, day, gapMm, mm, percent, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Segments } from '../../ui/Fields'
import { Page } from '../../ui/Page'
import { Num, Sentence, Sheet, SheetTitle, SoftLine, Table } from '../../ui/Sheet'
import { Loaded } from '../../ui/States'
import { useAddressState } from '../../ui/useAddressState'
import { CompassPicture } from './CompassPicture'
import { CouponInput } from './CouponInput'
import { FanChart } from './FanChart'
import { GapChart } from './GapChart'
import { TrialDialog } from './TrialDialog'
import { useReadings } from './useReadings'

export const KIND_NAMES = { fan: 'Overhang fan', gap: 'Gap ladder' } as const

/** One printed test: its coupon to be read, and what the readings say. */
export function TrialPage() {
  const { id = '' } = useParams()
  const query = useOne('trials', id)
  return <Loaded query={query}>{(trial) => <Reading key={trial.id} trial={trial} />}</Loaded>
}

function Reading({ trial }: { trial: Trial }) {
  const { readings, read, unsaved, problem } = useReadings(trial)
  const [address, setAddress] = useAddressState()
  const [changing, setChanging] = useState(false)
  const navigate = useNavigate()
  const remove = useRemove('trials')
  const { coupon } = trial
  return (
    <Page
      over={`${KIND_NAMES[coupon.kind]}, printed ${day(trial.printedOn)}`}
      title={trial.name}
      actions={
        <>
          <Conditions>
            <Num>{mm(trial.layerHeightMm)}</Num> layers, <Num>{mm(trial.nozzleMm)}</Num> nozzle on {trial.printerName}
            <br />
            <Num>{three(trial.speedMmS)} mm/s</Num>, fan <Num>{percent(trial.fanPercent / 100)}</Num>, spool {trial.damp ? 'damp' : 'dry'}
          </Conditions>
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
        {coupon.kind === 'fan'
          ? `Printed in ${trial.partFilamentName}.`
          : trial.partFilamentName === trial.supportFilamentName
            ? `${trial.partFilamentName} on itself.`
            : `${trial.partFilamentName}, touched by ${trial.supportFilamentName}.`}
        {unsaved > 0 && (
          <Unsaved role="status">
            {' '}
            {counted(unsaved, 'reading')} not with the server yet. {problem}
          </Unsaved>
        )}
      </p>
      <Columns>
        <CouponInput coupon={coupon} readings={readings} selected={address.step ?? stepsOf(coupon)[0].key} onSelect={(step) => setAddress({ step })} onRead={read} />
        {coupon.kind === 'fan' ? <FanAnswer trial={trial} readings={readings} /> : <GapAnswer trial={trial} readings={readings} />}
      </Columns>
      {changing && <TrialDialog trial={trial} onClose={() => setChanging(false)} />}
    </Page>
  )
}

type AnswerProps = { trial: Trial; readings: Trial['readings'] }

function FanAnswer({ trial, readings }: AnswerProps) {
  const [accept, setAccept] = useState<Grade>(FAN_DEFAULTS.accept)
  const used = useDeferredValue(useMemo(() => fanReadings(trial.coupon, readings, trial.layerHeightMm, trial.lineWidthMm), [trial, readings]))
  const fit = useMemo(() => fitFan(used, { ...FAN_DEFAULTS, accept }), [used, accept])
  const { medianDeg, lowDeg, highDeg } = fit.freeAngle
  const says = fanSentence(fit)
  return (
    <Sheet aria-label="Free angle" aria-live="polite">
      <SheetTitle>Free angle</SheetTitle>
      <Sentence>{says}</Sentence>
      <FanChart fit={fit} readings={used} accept={accept} says={says} />
      <SoftLine>
        {counted(used.length, 'arm')} read{used.length < 6 ? '; a handful more would narrow it' : ''}. Over all sides half of prints hold to {medianDeg.toFixed(0)}°, and the limit lies between{' '}
        {lowDeg.toFixed(0)}° and {highDeg.toFixed(0)}° nine times in ten. From the bed that is {(90 - highDeg).toFixed(0)}° to {(90 - lowDeg).toFixed(0)}°.
      </SoftLine>
      <CompassPicture fit={fit} />
      <Segments
        label="Worst grade that still counts as good"
        value={String(accept)}
        onChange={(value) => setAccept(Number(value) as Grade)}
        options={[
          { value: '1', label: 'clean' },
          { value: '2', label: 'marked' },
          { value: '3', label: 'rough' },
        ]}
      />
      {fit.directions.length > 1 && (
        <details>
          <summary>As a table</summary>
          <Table>
            <thead>
              <tr>
                <th>Facing</th>
                <th className="right">cautious</th>
                <th className="right">median</th>
                <th className="right">nine in ten</th>
                <th className="right">arms</th>
              </tr>
            </thead>
            <tbody>
              {fit.directions.map(({ direction, freeAngle, readings: count }) => (
                <tr key={direction}>
                  <td>{direction}</td>
                  <td className="right">{freeAngle.cautiousDeg.toFixed(0)}°</td>
                  <td className="right">{freeAngle.medianDeg.toFixed(0)}°</td>
                  <td className="right">
                    {freeAngle.lowDeg.toFixed(0)}–{freeAngle.highDeg.toFixed(0)}°
                  </td>
                  <td className="right">{count}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </details>
      )}
    </Sheet>
  )
}

function GapAnswer({ trial, readings }: AnswerProps) {
  const used = useDeferredValue(useMemo(() => gapReadings(trial.coupon, readings, trial.tileAreaMm2), [trial, readings]))
  const fit = useMemo(() => fitGap(used, { lineWidthMm: trial.lineWidthMm }), [used, trial.lineWidthMm])
  const says = gapSentence(fit)
  const { releaseThresholdMm: release, finishThresholdMm: finish } = fit
  return (
    <Sheet aria-label="Release window" aria-live="polite">
      <SheetTitle>Release window</SheetTitle>
      <Sentence>{says}</Sentence>
      <GapChart fit={fit} says={says} />
      <SoftLine>
        {counted(fit.readings, 'tile')} read. At {gapMm(fit.suggestedGapMm)} a contact comes off clean with a chance of {chance(fit.pTender)}.{' '}
        {fit.spacingMm > 0 ? `The answer is for lines ${mm(fit.spacingMm)} apart.` : 'The answer is for a solid interface.'}
      </SoftLine>
      <details>
        <summary>As a table</summary>
        <Table>
          <thead>
            <tr>
              <th>Edge</th>
              <th className="right">median</th>
              <th className="right">nine in ten</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>lets go from</td>
              <td className="right">{gapMm(release.median)}</td>
              <td className="right">
                {release.low.toFixed(2)} to {release.high.toFixed(2)}
              </td>
            </tr>
            <tr>
              <td>looks fine up to</td>
              <td className="right">{gapMm(finish.median)}</td>
              <td className="right">
                {finish.low.toFixed(2)} to {finish.high.toFixed(2)}
              </td>
            </tr>
          </tbody>
        </Table>
      </details>
    </Sheet>
  )
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(320px, 1fr);
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr);
  }
  details {
    margin-top: ${({ theme }) => theme.space.s};
    font-size: 13px;
  }
  summary {
    cursor: pointer;
    color: ${({ theme }) => theme.color.soft};
  }
`
const Conditions = styled.div`
  text-align: right;
  font-size: 13px;
  color: ${({ theme }) => theme.color.soft};
  @media (max-width: 640px) {
    text-align: left;
  }
`
const Unsaved = styled.span`
  color: ${({ theme }) => theme.color.wine};
`
