import type { LastKept, Part, Plan } from '@tender/contract'
import { filamentOf } from '@tender/core/bench'
import { correctedGrams } from '@tender/core/takeOff'
import { undersidesOf, differsIn, type PlanDocument } from '@tender/core/decide'
import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import styled from 'styled-components'
import { SectionView } from '../../drawings/SectionView'
import { One } from '../../frame/One'
import { counted, degrees, duration, gapMm, grams, money, percent, three } from '../../format/numbers'
import { Button, LinkButton } from '../../ui/Button'
import { NotOnPaper } from '../../ui/NotOnPaper'
import { Page } from '../../ui/Page'
import { Num, Table } from '../../ui/Sheet'
import { Skeleton } from '../../ui/Skeleton'
import { Failure } from '../../ui/States'
import { useLearnt } from '../../workers/useLearnt'
import { useMesh } from '../../workers/useMesh'
import { usePlanOutcome } from '../../workers/usePlanOutcome'
import { loadedOn } from '../printRuns/loadedOn'
import { standInWords } from './inWords'
import { labelOf, valueInWords } from './inWords'
import { useRelease } from './useRelease'
import { at, length } from '../../theme/measures'

/** One page of paper to lay beside the printer. */
export function SheetPage() {
  const { id = '' } = useParams()
  return (
    <One name="plans" id={id}>
      {(found) => <WithPart plan={found} />}
    </One>
  )
}

/** On paper nothing hurries. */
const NOTHING_KEPT: LastKept = []

function WithPart({ plan }: { plan: Plan }) {
  return (
    <One name="parts" id={plan.partId}>
      {(found) => <Paper plan={plan} part={found} />}
    </One>
  )
}

function Paper({ plan, part }: { plan: Plan; part: Part }) {
  const mesh = useMesh(part.meshSha256)
  const { outcome, error, retry } = usePlanOutcome(mesh.data, plan.document as PlanDocument)
  const release = useRelease(outcome?.id, plan.document as PlanDocument)
  const check = release && 'check' in release ? release.check : null
  const { decisions: d, exceptions, posts, printer } = plan.document as PlanDocument
  const failed = mesh.error ?? error
  const learnt = useLearnt(undefined, NOTHING_KEPT)
  const weighed = outcome && correctedGrams(outcome.summary.estimate, learnt)
  const nameOf = (id: string) => filamentOf(plan.document.filaments, id).name
  const loaded = useQuery({ queryKey: ['loaded on', printer.id], queryFn: () => loadedOn(printer.id) }).data
  /** Where a filament is loaded, as the bench calls it; nothing where nobody keeps a load map. */
  const placeOf = (id: string) => {
    if (!loaded?.some((one) => one !== null)) return ''
    const slot = loaded.indexOf(id)
    return slot < 0 ? ', not loaded' : `, ${printer.feed === 'changer' ? 'slot' : 'nozzle'} ${slot + 1}`
  }
  return (
    <Page
      over={part.name}
      title={plan.document.name}
      actions={
        <NotOnPaper>
          <LinkButton to={`/plans/${plan.id}`}>Back to the plan</LinkButton>{' '}
          <Button main isDisabled={!outcome} onPress={() => window.print()}>
            Print
          </Button>
        </NotOnPaper>
      }
    >
      {failed ? (
        <Failure error={failed} onRetry={retry} />
      ) : !outcome ? (
        <Skeleton style={{ height: 400 }} />
      ) : (
        <Columns>
          <div>
            <Table>
              <caption>Settings</caption>
              <tbody>
                <Row name="Printer">
                  {printer.name}, {three(printer.nozzleMm)} mm nozzle
                </Row>
                <Row name="Part, stands, interface">
                  {[d.partFilament, d.standFilament, d.interfaceFilament].map(nameOf).join(', ')}
                </Row>
                <Row name="Layers and lines">
                  {gapMm(d.layerHeightMm)} layers, {gapMm(d.lineWidthMm)} lines, {three(d.walls)} walls,{' '}
                  {percent(d.fillDensity)} fill
                </Row>
                <Row name="Free angle">
                  {degrees(d.freeAngleDeg)} from vertical, {degrees(90 - d.freeAngleDeg)} from bed
                </Row>
                <Row name="Supports">
                  {d.supports
                    ? `${d.standKind}${d.standKind === 'branching' && d.branches === 'sturdy' ? ' (branches that stand alone)' : ''}, ${d.standLines} lines with ${counted(d.standWalls, 'wall')}, on ${d.placement === 'bed' ? 'the bed only' : 'the bed and the part'}, ${percent(d.standDensity)}`
                    : 'none'}
                </Row>
                <Row name="Gaps">
                  {gapMm(d.upperGapMm)} above, {gapMm(d.lowerGapMm)} below, {gapMm(d.sideGapMm)} beside
                </Row>
                <Row name="Interface">
                  {three(d.interfaceLayers)} layers,{' '}
                  {d.interfaceSpacingMm === 0 ? 'solid' : `lines ${gapMm(d.interfaceSpacingMm)} apart`},{' '}
                  {d.interfaceDirection} the part’s first lines
                </Row>
                {exceptions.map((exception, i) => (
                  <Row key={i} name={`Under ${undersidesOf(exception.where, plan.document as PlanDocument)}`}>
                    {differsIn(exception)
                      .map((name) => `${labelOf(name)}: ${valueInWords(name, exception[name], nameOf)}`)
                      .join(', ')}
                  </Row>
                ))}
                {posts.length > 0 && (
                  <Row name="Posts by hand">
                    {posts
                      .map(
                        ({ atMm, widthMm }) =>
                          `${three(widthMm)} mm wide at ${atMm.map(three).join(', ')} mm`,
                      )
                      .join('; ')}
                  </Row>
                )}
                {outcome.summary.recuts.map((recut) => (
                  <Row key={recut.gapMm} name="Cut again">
                    a program with plain {gapMm(recut.layerMm)} layers makes {gapMm(recut.becomesMm)}
                    {recut.orMm !== null && ` or ${gapMm(recut.orMm)}`} of the gap of {gapMm(recut.gapMm)}
                  </Row>
                ))}
                <Row name="Swaps">
                  {outcome.summary.swaps} on {outcome.summary.swapLayers} heights; {three(d.purgeMm3)} mm³
                  purged before the part, {three(d.purgeAwayMm3)} mm³ before supports
                </Row>
                {outcome.summary.purges.tower && (
                  <Row name="Prime tower">
                    {three(outcome.summary.purges.tower.sideMm)} mm wide,{' '}
                    {three(outcome.summary.purges.tower.topMm)} mm tall,{' '}
                    {grams(outcome.summary.estimate.roles.tower.g)}
                  </Row>
                )}
              </tbody>
            </Table>
            <Table>
              <caption>Filament</caption>
              <tbody>
                {outcome.summary.estimate.filaments.map((use) => (
                  <tr key={use.name}>
                    <td>
                      {use.name}
                      {placeOf(use.id)}
                    </td>
                    <td className="right">{grams(use.g)}</td>
                    <td className="right">{three(use.m)} m</td>
                    <td className="right">{money(use.cost)}</td>
                  </tr>
                ))}
                <tr>
                  <td>Together, in {duration(outcome.summary.timeS)}</td>
                  <td className="right">{grams(outcome.summary.estimate.massG)}</td>
                  <td />
                  <td className="right">{money(outcome.summary.estimate.cost)}</td>
                </tr>
                {weighed && (
                  <tr>
                    <td>By the scale, from other prints</td>
                    <td className="right">{grams(weighed.g.median)}</td>
                    <td />
                    <td className="right">{money(weighed.cost)}</td>
                  </tr>
                )}
              </tbody>
            </Table>
          </div>
          <div>
            <Frame>
              <SectionView outcome={outcome} directionDeg={0} atMm={0} />
            </Frame>
            <Table>
              <caption>Undersides</caption>
              <thead>
                <tr>
                  <th>at</th>
                  <th className="right">held</th>
                  <th className="right">gap asked</th>
                  <th className="right">gap achieved</th>
                </tr>
              </thead>
              <tbody>
                {outcome.summary.contacts.slice(0, 14).map((contact, i) => (
                  <tr key={i}>
                    <td>
                      <Num>{contact.zMm.toFixed(2)}</Num> mm, {contact.kind}
                    </td>
                    <td className="right">
                      {three(contact.areaMm2)} of {three(contact.wantedMm2)} mm²
                    </td>
                    <td className="right">{contact.gapMm.toFixed(2)}</td>
                    <td className="right">
                      {contact.achievedGapMm === null ? '–' : contact.achievedGapMm.toFixed(2)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
            {outcome.summary.contacts.length > 14 && <p>and {outcome.summary.contacts.length - 14} more</p>}
            {outcome.summary.supportHeightsMm.length > 0 && (
              <details open>
                <summary>Tops of support layers in mm</summary>
                <Num>
                  {Array.from(outcome.summary.supportHeightsMm, (z) => Number(z.toFixed(3))).join(' ')}
                </Num>
              </details>
            )}
            {check && check.stands.length > 0 && (
              <Table>
                <caption>How it comes off, in this order</caption>
                <tbody>
                  {check.stands.slice(0, 14).map((stand, i) => (
                    <tr key={i}>
                      <td>
                        at <Num>{stand.atMm.map((value) => value.toFixed(0)).join(', ')}</Num> mm
                      </td>
                      <td>
                        {standInWords(stand)}
                        {stand.reasons.length > 0 && `; ${stand.reasons.join('; ')}`}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </Table>
            )}
            {outcome.summary.warnings.map((warning) => (
              <p key={warning.code + warning.message}>• {warning.message}</p>
            ))}
          </div>
        </Columns>
      )}
    </Page>
  )
}

const Row = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <tr>
    <th scope="row">{name}</th>
    <td>{children}</td>
  </tr>
)

const Columns = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: ${({ theme }) => theme.space.xxl};
  font-size: ${({ theme }) => theme.size.note};
  caption {
    text-align: left;
    font: 600 ${({ theme }) => `${theme.size.small} ${theme.font.sans}`};
    color: ${({ theme }) => theme.color.soft};
    padding: ${({ theme }) => `${theme.space.md} 0 ${theme.space.xs}`};
  }
  tbody th {
    border-top: ${({ theme }) => theme.border.faint};
    vertical-align: top;
    white-space: nowrap;
  }
  @media ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`
const Frame = styled.div`
  height: ${length.l};
`
