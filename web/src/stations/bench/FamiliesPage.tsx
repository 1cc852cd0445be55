import type { ClingEntry, FamilyEntry } from '@tender/contract'
import { FAMILIES, type Family } from '@tender/core/bench'
import { useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { useFamilies } from '../../api/useFamilies'
import { three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Page } from '../../ui/Page'
import { Sheet, SheetTitle, Sideways, SoftLine, Table, Unseen } from '../../ui/Sheet'
import { Loaded } from '../../ui/States'
import { ClingDialog } from './ClingDialog'
import { FamilyDialog } from './FamilyDialog'
import { length } from '../../theme/measures'

/**
 * What families of filament are like, and how they cling to one another: starting guesses that every bench
 * may know better.
 */
export function FamiliesPage() {
  const table = useFamilies()
  const [family, setFamily] = useState<FamilyEntry | null>(null)
  const [cling, setCling] = useState<ClingEntry | null>(null)
  return (
    <Page over={<Link to="/bench">Bench</Link>} title="Families">
      <Loaded query={table}>
        {({ families, clings }) => (
          <>
            <Sheet>
              <SheetTitle>Their numbers</SheetTitle>
              <Sideways>
                <Table>
                  <thead>
                    <tr>
                      <th>Family</th>
                      <th className="right">g/cm³</th>
                      <th className="right">nozzle °C</th>
                      <th className="right">bed °C</th>
                      <th className="right">softens °C</th>
                      <th>dissolves in</th>
                      <th>damp</th>
                      <th>source</th>
                      <th>
                        <Unseen>What can be done</Unseen>
                      </th>
                    </tr>
                  </thead>
                  <tbody>
                    {families.map((one) => (
                      <tr key={one.name}>
                        <td>
                          <b>{one.name}</b>
                        </td>
                        <td className="right">{three(one.densityGcm3)}</td>
                        <td className="right">{one.nozzleC.join('–')}</td>
                        <td className="right">{one.bedC.join('–')}</td>
                        <td className="right">{one.softensC ?? 'soft'}</td>
                        <td>{one.dissolvesIn ?? ''}</td>
                        <td>{one.drawsWater ? 'draws water' : ''}</td>
                        <td>
                          <SoftLine as="span">
                            {one.own ? `Yours: ${one.source || 'no source noted'}` : one.source}
                          </SoftLine>
                        </td>
                        <td className="right">
                          <Button onPress={() => setFamily(one)} aria-label={`Change ${one.name}`}>
                            Change
                          </Button>
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </Table>
              </Sideways>
            </Sheet>
            <Sheet>
              <SheetTitle>How they cling, 0 not at all to 4 welded</SheetTitle>
              <Sideways>
                <ClingTable clings={clings} onPick={setCling} />
              </Sideways>
              <SoftLine>
                Bold: yours. Pale: nobody has spoken for these two, the middle is taken. Ladders that have
                been read go before all of these.
              </SoftLine>
            </Sheet>
          </>
        )}
      </Loaded>
      {family && <FamilyDialog key={family.name} family={family} onClose={() => setFamily(null)} />}
      {cling && <ClingDialog key={cling.a + cling.b} cling={cling} onClose={() => setCling(null)} />}
    </Page>
  )
}

function ClingTable({
  clings,
  onPick,
}: {
  clings: readonly ClingEntry[]
  onPick: (cling: ClingEntry) => void
}) {
  const of = (a: Family, b: Family) =>
    clings.find((one) => (one.a === a && one.b === b) || (one.a === b && one.b === a))!
  return (
    <Triangle>
      <thead>
        <tr>
          <th>
            <Unseen>Family</Unseen>
          </th>
          {FAMILIES.map((name) => (
            <th key={name} scope="col">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {FAMILIES.map((a, i) => (
          <tr key={a}>
            <th scope="row">{a}</th>
            {FAMILIES.map((b, j) => {
              if (j < i) return <td key={b} />
              const entry = of(a, b)
              return (
                <td key={b}>
                  <button
                    type="button"
                    data-own={entry.own || undefined}
                    data-unknown={!entry.known || undefined}
                    aria-label={`${a} and ${b}: ${entry.cling}${entry.own ? ', yours' : entry.known ? '' : ', not known'}`}
                    onClick={() => onPick(entry)}
                  >
                    {entry.cling}
                  </button>
                </td>
              )
            })}
          </tr>
        ))}
      </tbody>
    </Triangle>
  )
}

const Triangle = styled.table`
  border-collapse: collapse;
  th {
    font: 500 ${({ theme }) => `${theme.size.small} ${theme.font.sans}`};
    color: ${({ theme }) => theme.color.soft};
    padding: ${({ theme }) => `${theme.space.hair} ${theme.space.s}`};
    text-align: right;
  }
  button {
    width: ${length.bar};
    height: ${length.control};
    border: ${({ theme }) => theme.border.faint};
    background: none;
    font: ${({ theme }) => `${theme.size.note} ${theme.font.mono}`};
    color: ${({ theme }) => theme.color.ink};
    cursor: pointer;
  }
  button[data-own] {
    font-weight: 700;
    background: ${({ theme }) => theme.color.damsonWash};
  }
  button[data-unknown] {
    color: ${({ theme }) => theme.color.soft};
    border-style: dashed;
  }
`
