import { useState } from 'react'
import { useSearchParams } from 'react-router'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { Button, LinkButton } from '../../ui/Button'
import { Page } from '../../ui/Page'
import { Sentence, Sheet, SheetTitle } from '../../ui/Sheet'
import { Loaded } from '../../ui/States'
import { FilamentDialog } from './FilamentDialog'
import { FilamentFiles } from './FilamentFiles'
import { FilamentTable } from './FilamentTable'
import { PrinterCard } from './PrinterCard'
import { PrinterDialog } from './PrinterDialog'
import { Workshop } from './Workshop'
import { at, length } from '../../theme/measures'

/** What is on the table: printers and filaments. */
export function BenchPage() {
  const printers = useList('printers')
  const filaments = useList('filaments')
  const [params, setParams] = useSearchParams()
  const [adding, setAdding] = useState<'printer' | 'filament' | null>(null)
  const open = (key: 'printer' | 'filament', id: string | null) =>
    setParams(id ? { [key]: id } : {}, { replace: true })
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
          <LinkButton to="/bench/families">Families</LinkButton>
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
                <Sentence>
                  No printer yet. Add one, so that plans know its nozzles, its bed and how fast it moves.
                </Sentence>
              ) : (
                items.map((one) => (
                  <PrinterCard
                    key={one.id}
                    printer={one}
                    filaments={filaments.data?.items ?? []}
                    onEdit={() => open('printer', one.id)}
                  />
                ))
              )
            }
          </Loaded>
        </Sheet>
        <Sheet aria-label="Filaments">
          <SheetTitle>Filaments</SheetTitle>
          <FilamentTable onEdit={(id) => open('filament', id)} />
          <FilamentFiles filaments={filaments.data?.items ?? []} />
        </Sheet>
      </Columns>
      <Workshop />
      {(adding === 'printer' || printer) && (
        <PrinterDialog key={printer?.id ?? 'new'} printer={printer ?? null} onClose={close} />
      )}
      {(adding === 'filament' || filament) && (
        <FilamentDialog key={filament?.id ?? 'new'} filament={filament ?? null} onClose={close} />
      )}
    </Page>
  )
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(${length.xl}, 5fr) minmax(${length.dialog}, 8fr);
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  @media ${at.medium} {
    grid-template-columns: minmax(0, 1fr);
  }
`
