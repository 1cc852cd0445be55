import type { Printer, StoredFilament } from '@tender/contract'
import { useState } from 'react'
import { useSearchParams } from 'react-router'
import styled from 'styled-components'
import { useList, useRemove } from '../../api/useShelf'
import { counted, grams, money, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Swatch } from '../../ui/Fields'
import { Page } from '../../ui/Page'
import { Num, Sentence, Sheet, SheetTitle, Soft, SoftLine, Table, Unseen } from '../../ui/Sheet'
import { Loaded } from '../../ui/States'
import { FilamentDialog } from './FilamentDialog'
import { PrinterDialog } from './PrinterDialog'
import { PrinterDrawing } from './PrinterDrawing'

/** What is on the table: printers and filaments. */
export function BenchPage() {
  const printers = useList('printers')
  const filaments = useList('filaments')
  const [params, setParams] = useSearchParams()
  const [adding, setAdding] = useState<'printer' | 'filament' | null>(null)
  const open = (key: 'printer' | 'filament', id: string | null) => setParams(id ? { [key]: id } : {}, { replace: true })
  const close = () => {
    setAdding(null)
    open('printer', null)
  }
  const printer = printers.data?.items.find(({ id }) => id === params.get('printer'))
  const filament = filaments.data?.items.find(({ id }) => id === params.get('filament'))

  return (
    <Page
      over="What is on the table"
      title="Bench"
      actions={
        <>
          <Button onPress={() => setAdding('printer')}>Add a printer</Button>
          <Button main onPress={() => setAdding('filament')}>
            Add a filament
          </Button>
        </>
      }
    >
      <Columns>
        <Sheet aria-label="Printers">
          <SheetTitle>Printers</SheetTitle>
          <Loaded query={printers}>
            {({ items }) =>
              items.length === 0 ? (
                <Sentence>No printer yet. Add one, so that plans know its nozzles, its bed and how fast it moves.</Sentence>
              ) : (
                items.map((one) => <PrinterCard key={one.id} printer={one} onEdit={() => open('printer', one.id)} />)
              )
            }
          </Loaded>
        </Sheet>
        <Sheet aria-label="Filaments">
          <SheetTitle>Filaments</SheetTitle>
          <Loaded query={filaments}>
            {({ items }) =>
              items.length === 0 ? (
                <Sentence>No filament yet. Two make a pairing: one for the part, one that touches it.</Sentence>
              ) : (
                <FilamentTable filaments={items} onEdit={(id) => open('filament', id)} />
              )
            }
          </Loaded>
        </Sheet>
      </Columns>
      {(adding === 'printer' || printer) && <PrinterDialog key={printer?.id ?? 'new'} printer={printer ?? null} onClose={close} />}
      {(adding === 'filament' || filament) && <FilamentDialog key={filament?.id ?? 'new'} filament={filament ?? null} onClose={close} />}
    </Page>
  )
}

function PrinterCard({ printer, onEdit }: { printer: Printer; onEdit: () => void }) {
  const remove = useRemove('printers')
  const { name, feed, loads, nozzleMm, bedMm, heightMm, wallMmS, accelMmS2 } = printer
  return (
    <Card>
      <PrinterDrawing printer={printer} />
      <div>
        <h3>{name}</h3>
        <p>
          {feed === 'nozzles'
            ? `${counted(loads, 'nozzle')} of ${three(nozzleMm)} mm, each with a filament of its own`
            : `One nozzle of ${three(nozzleMm)} mm, fed by a changer with ${counted(loads, 'slot')}`}
        </p>
        <SoftLine>
          <Num>
            {three(bedMm[0])} × {three(bedMm[1])} × {three(heightMm)}
          </Num>{' '}
          mm, walls at <Num>{three(wallMmS)}</Num> mm/s, acceleration <Num>{three(accelMmS2)}</Num> mm/s²
        </SoftLine>
        <Row>
          <Button onPress={onEdit} aria-label={`Change ${name}`}>
            Change
          </Button>
          <Button quiet onPress={() => remove.mutate({ id: printer.id, name })} aria-label={`Remove ${name}`}>
            Remove
          </Button>
        </Row>
      </div>
    </Card>
  )
}

function FilamentTable({ filaments, onEdit }: { filaments: readonly StoredFilament[]; onEdit: (id: string) => void }) {
  const remove = useRemove('filaments')
  return (
    <Scroll>
      <Table>
        <thead>
          <tr>
            <th>Name</th>
            <th>Family</th>
            <th className="right">left</th>
            <th className="right">per kg</th>
            <th className="right">nozzle, bed</th>
            <th>
              <Unseen>What can be done</Unseen>
            </th>
          </tr>
        </thead>
        <tbody>
          {filaments.map((one) => {
            const left = one.spools.reduce((sum, spool) => sum + spool.gramsLeft, 0)
            return (
              <tr key={one.id}>
                <td>
                  <Named>
                    <Swatch style={{ background: one.colour }} /> {one.name}
                  </Named>
                </td>
                <td>{one.family}</td>
                <td className="right">
                  {one.spools.length === 0 ? <Soft>not weighed</Soft> : grams(left)}
                  {one.spools.length > 1 && <Spools>{counted(one.spools.length, 'spool')}</Spools>}
                </td>
                <td className="right">{money(one.pricePerKg)}</td>
                <td className="right">
                  {three(one.nozzleC)}, {three(one.bedC)} °C
                </td>
                <td className="right">
                  <Button onPress={() => onEdit(one.id)} aria-label={`Change ${one.name}`}>
                    Change
                  </Button>{' '}
                  <Button quiet onPress={() => remove.mutate({ id: one.id, name: one.name })} aria-label={`Remove ${one.name}`}>
                    Remove
                  </Button>
                </td>
              </tr>
            )
          })}
        </tbody>
      </Table>
    </Scroll>
  )
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(340px, 5fr) minmax(520px, 8fr);
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  @media (max-width: 1023px) {
    grid-template-columns: minmax(0, 1fr);
  }
`
const Card = styled.article`
  display: grid;
  grid-template-columns: 132px 1fr;
  gap: ${({ theme }) => theme.space.l};
  padding: ${({ theme }) => `${theme.space.m} 0`};
  & + & {
    border-top: 1px solid ${({ theme }) => theme.color.faint};
  }
  h3 {
    font: 500 19px ${({ theme }) => theme.font.serif};
  }
`
const Row = styled.div`
  display: flex;
  gap: ${({ theme }) => theme.space.s};
  margin-top: ${({ theme }) => theme.space.s};
`
const Named = styled.span`
  display: flex;
  align-items: center;
  gap: 9px;
  font-weight: 500;
`
const Spools = styled(SoftLine)`
  font-family: ${({ theme }) => theme.font.sans};
`
const Scroll = styled.div`
  overflow-x: auto;
`
