import { WHOLE, type StoredTakeOff } from '@tender/contract'
import { Link, useParams } from 'react-router'
import { useList } from '../../api/useShelf'
import { ContactMap } from '../../drawings/ContactMap'
import { counted, day, duration, grams } from '../../format/numbers'
import { Page, WaitingPage } from '../../ui/Page'
import { Sheet, Sideways, Table, Unseen } from '../../ui/Sheet'
import { Empty, Loaded } from '../../ui/States'
import { DifferingRows, Dots } from '../plans/DifferingRows'
import { recordSentence } from './words'

/** Variants that were printed on one bed, a column each: what differed, and how each came off. */
export function BedPage() {
  const { id = '' } = useParams()
  const takeOffs = useList('takeOffs', { bed: id })
  return (
    <Loaded query={takeOffs} skeleton={<WaitingPage />}>
      {({ items }) => <Bed variants={items.toSorted((a, b) => a.bed!.dots - b.bed!.dots)} />}
    </Loaded>
  )
}

function Bed({ variants }: { variants: readonly StoredTakeOff[] }) {
  const over = <Link to="/take-offs">Take-offs</Link>
  if (variants.length === 0)
    return (
      <Page over={over} title="A bed that is not here">
        <Empty>No print of this bed stands here any more.</Empty>
      </Page>
    )
  const whole = ({ notes }: StoredTakeOff) => notes.find(({ at }) => at === WHOLE)
  const rows: [string, (variant: StoredTakeOff) => string][] = [
    ['How it came off', recordSentence],
    ['Minutes', (one) => told(whole(one)?.minutes, (minutes) => duration(60 * minutes))],
    ['Part weighs', (one) => told(whole(one)?.partG, grams)],
    ['Thrown away', (one) => told(whole(one)?.wasteG, grams)],
  ]
  const [first] = variants
  return (
    <Page
      over={over}
      title={`${first.partName}, ${counted(variants.length, 'variant')} of ${day(first.printedOn)}`}
    >
      <Sheet>
        <Sideways>
          <Table>
            <thead>
              <tr>
                <th>
                  <Unseen>What</Unseen>
                </th>
                {variants.map((one) => (
                  <th key={one.id} scope="col">
                    <Dots count={one.bed!.dots} />{' '}
                    <Link to={`/take-offs/${one.id}`}>{one.document.name}</Link>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <tr>
                <th scope="row">From below</th>
                {variants.map((one) => {
                  const byKey = new Map(one.notes.map((note) => [note.at, note]))
                  return (
                    <td key={one.id} style={{ height: 190 }}>
                      <ContactMap printed={one.printed} markOf={(key) => byKey.get(key)} />
                    </td>
                  )
                })}
              </tr>
              <DifferingRows plans={variants} />
              {rows.map(([label, says]) => (
                <tr key={label}>
                  <th scope="row">{label}</th>
                  {variants.map((one) => (
                    <td key={one.id}>{says(one)}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </Table>
        </Sideways>
      </Sheet>
    </Page>
  )
}

const told = (value: number | null | undefined, show: (value: number) => string): string =>
  value === null || value === undefined ? '–' : show(value)
